import type { ModuleKind } from '../../circuit/catalogue';
import type { Kernel, KernelContext } from '../kernel';
import { drive } from './drive';
import { envelope } from './envelope';
import { highPass12, lowPass12, lowPass24 } from './filters';
import { keyboard } from './keyboard';
import { lfo } from './lfo';
import { amplifier, attenuator, lever, mixer, noise, output, ring } from './mixing';
import { oscillator } from './oscillator';

/** How each kind of the catalogue sounds. */
export const kernels: Record<ModuleKind, (context: KernelContext) => Kernel> = {
  keyboard,
  oscillator,
  noise,
  ring,
  mixer,
  drive,
  'low-pass-12': lowPass12,
  'low-pass-24': lowPass24,
  'high-pass-12': highPass12,
  envelope,
  lfo,
  attenuator,
  amplifier,
  lever,
  output,
};
