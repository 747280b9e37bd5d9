import marramEstuary from '../../../library/instruments/marram-estuary.json' with { type: 'json' };
import marramReedbed from '../../../library/instruments/marram-reedbed.json' with { type: 'json' };
import marramShoal from '../../../library/instruments/marram-shoal.json' with { type: 'json' };
import oxbowEelpot from '../../../library/instruments/oxbow-eelpot.json' with { type: 'json' };
import oxbowLockgate from '../../../library/instruments/oxbow-lockgate.json' with { type: 'json' };
import oxbowSedge from '../../../library/instruments/oxbow-sedge.json' with { type: 'json' };
import oxbowSluice from '../../../library/instruments/oxbow-sluice.json' with { type: 'json' };
import staitheCurlew from '../../../library/instruments/staithe-curlew.json' with { type: 'json' };
import staitheHeronry from '../../../library/instruments/staithe-heronry.json' with { type: 'json' };
import staitheSkimmer from '../../../library/instruments/staithe-skimmer.json' with { type: 'json' };
import eelRunEight from '../../../library/patches/eel-run-eight.json' with { type: 'json' };
import eelRunGlass from '../../../library/patches/eel-run-glass.json' with { type: 'json' };
import eelRunHat from '../../../library/patches/eel-run-hat.json' with { type: 'json' };
import eelRunKit from '../../../library/patches/eel-run-kit.json' with { type: 'json' };
import eelRunLine from '../../../library/patches/eel-run-line.json' with { type: 'json' };
import eelRunRattle from '../../../library/patches/eel-run-rattle.json' with { type: 'json' };
import eelRunRipple from '../../../library/patches/eel-run-ripple.json' with { type: 'json' };
import eelRunSlave from '../../../library/patches/eel-run-slave.json' with { type: 'json' };
import eelRunSpark from '../../../library/patches/eel-run-spark.json' with { type: 'json' };
import fogSignalBell from '../../../library/patches/fog-signal-bell.json' with { type: 'json' };
import fogSignalChain from '../../../library/patches/fog-signal-chain.json' with { type: 'json' };
import fogSignalHorn from '../../../library/patches/fog-signal-horn.json' with { type: 'json' };
import fogSignalSwell from '../../../library/patches/fog-signal-swell.json' with { type: 'json' };
import lowTideAccordion from '../../../library/patches/low-tide-accordion.json' with { type: 'json' };
import lowTideChannel from '../../../library/patches/low-tide-channel.json' with { type: 'json' };
import lowTideFour from '../../../library/patches/low-tide-four.json' with { type: 'json' };
import lowTideHeld from '../../../library/patches/low-tide-held.json' with { type: 'json' };
import lowTideLampsHaze from '../../../library/patches/low-tide-lamps-haze.json' with { type: 'json' };
import lowTideThread from '../../../library/patches/low-tide-thread.json' with { type: 'json' };
import nightLockDrip from '../../../library/patches/night-lock-drip.json' with { type: 'json' };
import nightLockGate from '../../../library/patches/night-lock-gate.json' with { type: 'json' };
import nightLockLantern from '../../../library/patches/night-lock-lantern.json' with { type: 'json' };
import nightLockLead from '../../../library/patches/night-lock-lead.json' with { type: 'json' };
import nightLockSluiceLine from '../../../library/patches/night-lock-sluice-line.json' with { type: 'json' };
import ropewalkPedal from '../../../library/patches/ropewalk-pedal.json' with { type: 'json' };
import ropewalkShanty from '../../../library/patches/ropewalk-shanty.json' with { type: 'json' };
import ropewalkSteps from '../../../library/patches/ropewalk-steps.json' with { type: 'json' };
import ropewalkTwine from '../../../library/patches/ropewalk-twine.json' with { type: 'json' };
import ropewalkUnder from '../../../library/patches/ropewalk-under.json' with { type: 'json' };
import winchRoomBass from '../../../library/patches/winch-room-bass.json' with { type: 'json' };
import winchRoomCall from '../../../library/patches/winch-room-call.json' with { type: 'json' };
import winchRoomDrumKit from '../../../library/patches/winch-room-drum-kit.json' with { type: 'json' };
import winchRoomKick from '../../../library/patches/winch-room-kick.json' with { type: 'json' };
import winchRoomPawl from '../../../library/patches/winch-room-pawl.json' with { type: 'json' };
import winchRoomRatchet from '../../../library/patches/winch-room-ratchet.json' with { type: 'json' };
import winchRoomRiser from '../../../library/patches/winch-room-riser.json' with { type: 'json' };

/** The library that comes with the application: documents as they would be imported. */
export const demoInstruments: unknown[] = [
  oxbowSluice,
  marramEstuary,
  marramReedbed,
  marramShoal,
  oxbowEelpot,
  oxbowLockgate,
  oxbowSedge,
  staitheCurlew,
  staitheHeronry,
  staitheSkimmer,
];
export const demoPatches: unknown[] = [
  eelRunEight,
  eelRunGlass,
  eelRunHat,
  eelRunKit,
  eelRunLine,
  eelRunRattle,
  eelRunRipple,
  eelRunSlave,
  eelRunSpark,
  fogSignalBell,
  fogSignalChain,
  fogSignalHorn,
  fogSignalSwell,
  lowTideAccordion,
  lowTideChannel,
  lowTideFour,
  lowTideHeld,
  lowTideLampsHaze,
  lowTideThread,
  nightLockDrip,
  nightLockGate,
  nightLockLantern,
  nightLockLead,
  nightLockSluiceLine,
  ropewalkPedal,
  ropewalkShanty,
  ropewalkSteps,
  ropewalkTwine,
  ropewalkUnder,
  winchRoomBass,
  winchRoomCall,
  winchRoomDrumKit,
  winchRoomKick,
  winchRoomPawl,
  winchRoomRatchet,
  winchRoomRiser,
];
