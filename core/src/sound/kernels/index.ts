import type { ModuleKind } from '../../catalogue';
import type { Kernel, KernelContext } from '../kernel';
import { bank, tilt } from './bank';
import { chorus, phaser } from './chorus';
import { delay } from './delay';
import { drive } from './drive';
import { bend, envelope } from './envelope';
import { keyboard } from './keyboard';
import { diode, lowPass18, lowPass24 } from './ladders';
import { controller } from './controllers';
import { external } from './external';
import { lfo } from './lfo';
import { limiter } from './limiter';
import { clock, comparator, divider, logic, sampleHold, slew } from './logic';
import { amplifier, attenuator, inverter, mixer, multiple, offset, selector } from './mixing';
import { output } from './output';
import { noise, ring } from './noise';
import { foldOscillator, twoOperator } from './operators';
import { oscillator } from './oscillator';
import { reverb } from './reverb';
import { chord, sawStack } from './stack';
import { row } from './row';
import { crossfade, extremes, follower, pan, quantiser, rectifier, voltageMixer } from './shaping';
import { fromHzVolt, toHzVolt } from './standards';
import { comb } from './comb';
import { compressor } from './compressor';
import { equaliser } from './equaliser';
import { formant } from './formant';
import { fourPole } from './four-pole';
import { overload12 } from './overload';
import { rows } from './rows';
import { shifter } from './shifter';
import { speaker } from './speaker';
import { spring } from './spring';
import { sub } from './sub';
import { filterPair, highPass12, lowPass12, stateVariable } from './two-pole';
import { voiceMixer, voices } from './voices';
import { channels, keyRange } from './key-range';

/** How each kind of the catalogue sounds. */
export const kernels: Record<ModuleKind, (context: KernelContext) => Kernel> = {
  keyboard,
  voices,
  'voice-mixer': voiceMixer,
  'key-range': keyRange,
  channels,
  controller,
  external,
  oscillator,
  'saw-stack': sawStack,
  chord,
  'fold-oscillator': foldOscillator,
  'two-operator': twoOperator,
  sub,
  noise,
  ring,
  'low-pass-12': lowPass12,
  'low-pass-18': lowPass18,
  'low-pass-24': lowPass24,
  diode,
  'state-variable': stateVariable,
  'filter-pair': filterPair,
  'high-pass-12': highPass12,
  bank,
  tilt,
  envelope,
  bend,
  lfo,
  quantiser,
  rectifier,
  extremes,
  follower,
  crossfade,
  pan,
  'voltage-mixer': voltageMixer,
  mixer,
  attenuator,
  inverter,
  offset,
  multiple,
  selector,
  slew,
  comparator,
  logic,
  divider,
  clock,
  'sample-hold': sampleHold,
  row,
  'to-hz-volt': toHzVolt,
  'from-hz-volt': fromHzVolt,
  amplifier,
  output,
  drive,
  chorus,
  phaser,
  delay,
  reverb,
  limiter,
  'overload-12': overload12,
  'four-pole': fourPole,
  comb,
  formant,
  rows,
  spring,
  compressor,
  equaliser,
  shifter,
  speaker,
};
