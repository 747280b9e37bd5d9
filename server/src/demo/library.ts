import marramEstuary from '../../../library/instruments/marram-estuary.json' with { type: 'json' };
import oxbowLockgate from '../../../library/instruments/oxbow-lockgate.json' with { type: 'json' };
import oxbowSluice from '../../../library/instruments/oxbow-sluice.json' with { type: 'json' };
import staitheCurlew from '../../../library/instruments/staithe-curlew.json' with { type: 'json' };
import eelRunGlass from '../../../library/patches/eel-run-glass.json' with { type: 'json' };
import eelRunHat from '../../../library/patches/eel-run-hat.json' with { type: 'json' };
import eelRunRattle from '../../../library/patches/eel-run-rattle.json' with { type: 'json' };
import eelRunRipple from '../../../library/patches/eel-run-ripple.json' with { type: 'json' };
import fogSignalBell from '../../../library/patches/fog-signal-bell.json' with { type: 'json' };
import fogSignalHorn from '../../../library/patches/fog-signal-horn.json' with { type: 'json' };
import fogSignalSwell from '../../../library/patches/fog-signal-swell.json' with { type: 'json' };
import lowTideChannel from '../../../library/patches/low-tide-channel.json' with { type: 'json' };
import lowTideLampsHaze from '../../../library/patches/low-tide-lamps-haze.json' with { type: 'json' };
import lowTideThread from '../../../library/patches/low-tide-thread.json' with { type: 'json' };
import nightLockDrip from '../../../library/patches/night-lock-drip.json' with { type: 'json' };
import nightLockGate from '../../../library/patches/night-lock-gate.json' with { type: 'json' };
import nightLockLead from '../../../library/patches/night-lock-lead.json' with { type: 'json' };
import ropewalkTwine from '../../../library/patches/ropewalk-twine.json' with { type: 'json' };
import ropewalkUnder from '../../../library/patches/ropewalk-under.json' with { type: 'json' };
import winchRoomBass from '../../../library/patches/winch-room-bass.json' with { type: 'json' };
import winchRoomDrumKit from '../../../library/patches/winch-room-drum-kit.json' with { type: 'json' };
import winchRoomKick from '../../../library/patches/winch-room-kick.json' with { type: 'json' };

/** The library that comes with the application: documents as they would be imported. */
export const demoInstruments: unknown[] = [
  oxbowSluice,
  marramEstuary,
  oxbowLockgate,
  staitheCurlew,
];
export const demoPatches: unknown[] = [
  eelRunGlass,
  eelRunHat,
  eelRunRattle,
  eelRunRipple,
  fogSignalBell,
  fogSignalHorn,
  fogSignalSwell,
  lowTideChannel,
  lowTideLampsHaze,
  lowTideThread,
  nightLockDrip,
  nightLockGate,
  nightLockLead,
  ropewalkTwine,
  ropewalkUnder,
  winchRoomBass,
  winchRoomDrumKit,
  winchRoomKick,
];
