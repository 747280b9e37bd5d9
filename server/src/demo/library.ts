import sluice from '../../../library/instruments/oxbow-sluice.json';
import eelRunHat from '../../../library/patches/eel-run-hat.json';
import eelRunRipple from '../../../library/patches/eel-run-ripple.json';
import fogSignalHorn from '../../../library/patches/fog-signal-horn.json';
import fogSignalSwell from '../../../library/patches/fog-signal-swell.json';
import lowTideThread from '../../../library/patches/low-tide-thread.json';
import nightLockDrip from '../../../library/patches/night-lock-drip.json';
import ropewalkUnder from '../../../library/patches/ropewalk-under.json';
import winchRoomBass from '../../../library/patches/winch-room-bass.json';
import winchRoomKick from '../../../library/patches/winch-room-kick.json';

/** The library that comes with the application: documents as they would be imported. */
export const demoInstruments: unknown[] = [sluice];
export const demoPatches: unknown[] = [
  eelRunHat,
  eelRunRipple,
  fogSignalHorn,
  fogSignalSwell,
  lowTideThread,
  nightLockDrip,
  ropewalkUnder,
  winchRoomBass,
  winchRoomKick,
];
