import { underVoltage } from './by-voltage';
import { type LowPass, lowPassBounds, lowPasses } from './low-pass';
import { asItComes } from './passing';
import type { Closes } from './situation';
import { zero } from './situation';
import { choice, type ModuleSpec, number } from './spec';

// `cutoff` moves the corner by one octave a volt, at audio rate too; `pitch` by track/100 octaves a volt.
const whistle = underVoltage({ resonance: 0.2 });
const inputs = { in: 'audio', cutoff: 'modulation', pitch: 'pitch', ...whistle.inputs } as const;
// `hz` is a reading, not a voltage: the cutoff reached at the end of a block, in Hz.
const outputs = { out: 'audio', hz: 'modulation' } as const;
const cutoff = { cutoff: number('Hz', 5, 20000, 1000, 20000) };
const resonance = { resonance: number('', 0, 1, 0, 0) };
const track = { track: number('%', -200, 200, 0, 0) };
const { byVoltage } = whistle;
const lowPass = { inputs, byVoltage, outputs, params: { ...cutoff, ...resonance, ...track } };
/** Keys do not move the cutoff while it does not follow them. */
const untracked: Closes = (port, { params }) =>
  port === 'pitch' ? zero(params, 'track') : undefined;
const judged = (filter: LowPass) => ({
  lowPass: filter,
  bounds: lowPassBounds(filter),
  closes: untracked,
});
const CUTOFF = 'fc = cutoff * 2^(cutoff-in + track/100 * pitch), 5 Hz to 20 kHz';
const ZDF =
  'V. Zavalishin, The Art of VA Filter Design (2018): trapezoidal integrators, loop solved in the same sample';
/** See sound/kernels/warp. */
const COMPENSATED =
  'level at the cutoff, place and height of the peak corrected to the prototype, see "Filters" in architecture.md';

const tiltMoves = underVoltage({ tilt: 2.4 });
const pairWhistle = underVoltage({ resonance1: 0.2, resonance2: 0.2 });
export const filterModes = ['low', 'band', 'high', 'notch', 'morph'] as const;
/** Centres of the fixed bank in Hz. */
export const BANK_HZ = [31.25, 62.5, 125, 250, 500, 1000, 2000, 4000, 8000, 16000] as const;

export const filters = {
  'low-pass-12': {
    family: 'filter',
    summary: 'Two-pole state variable low-pass, 12 dB an octave.',
    equation: `${CUTOFF}; H = 1/(s^2 + s/Q + 1), Q = 0.7071 to 25 by equal ratios over resonance`,
    source: `${ZDF}, chapter 4; ${COMPENSATED}`,
    ...lowPass,
    silentWithout: ['in'],
    ...judged(lowPasses.twoPole),
  },
  'low-pass-18': {
    family: 'filter',
    summary:
      'Three-pole low-pass, 18 dB an octave; keeps its bass; whistles from resonance 0.91 on.',
    equation: `${CUTOFF}; H = 1/((s + 1)(s^2 + k s + 1)), k = 1 - 1.1 resonance, plus 0.1 (band^2 + low^2)/25 for what is loud; with no resonance a Butterworth`,
    source: `${ZDF}, chapter 4; ${COMPENSATED}`,
    ...lowPass,
    ...judged(lowPasses.threePole),
  },
  'low-pass-24': {
    family: 'filter',
    summary:
      'Four-pole ladder low-pass, 24 dB an octave; loses bass with resonance; whistles from 0.91 on.',
    equation: `${CUTOFF}; H = 1/((s + 1)^4 + k), k = 4.4 resonance; what goes into the first pole saturates at 7 V, w - 4 w^3/27 with w = u/7 V up to 1.5; bass/100 gives back the lost 1/(1 + k)`,
    source: `${ZDF}, chapter 5; the loop is solved as if it were linear and the saturation applied to its solution, which bends no phase; at twice the sample rate, which is where its harmonics have room; ${COMPENSATED}`,
    inputs,
    byVoltage,
    outputs,
    params: { ...cutoff, ...resonance, ...track, bass: number('%', 0, 100, 0) },
    ...judged(lowPasses.ladder),
  },
  diode: {
    family: 'filter',
    summary:
      'Four-pole ladder of coupled stages, overloads to one side first, whistles early: from resonance 0.8 on.',
    equation: `${CUTOFF}; H = 1/(T4(1 + s/sqrt(2)) + k) with T4 the fourth Chebyshev polynomial: poles at -sqrt(2) (1 - cos((2j - 1) pi/8)) fc; k = 17 resonance/0.8, whistle at 17, beyond it 17 (1 + (resonance - 0.8)/2); what comes in overloads around a bias, s(u + 0.4) - s(0.4), s(x) = x/sqrt(1 + x^2), u = in/5 V; the loop saturates at 20 V as in low-pass-24`,
    source: `${ZDF}, chapter 5 (diode ladder): the coupled stages written as four real poles; at four times the sample rate; ${COMPENSATED}`,
    ...lowPass,
    ...judged(lowPasses.diode),
  },
  'state-variable': {
    family: 'filter',
    summary: 'Two-pole state variable filter: low, band, high, notch, or from one to the next.',
    equation: `${CUTOFF}; Q as in low-pass-12; band k s/(s^2 + k s + 1), high s^2/(...), notch (s^2 + 1)/(...); morph 0 low, 0.5 band, 1 high`,
    source: `${ZDF}, chapter 4; in low and high, and by degrees in morph, ${COMPENSATED}`,
    inputs: { ...inputs, morph: 'modulation' },
    byVoltage,
    outputs,
    params: {
      ...cutoff,
      ...resonance,
      ...track,
      mode: choice(filterModes),
      morph: number('', 0, 1, 0),
    },
    silentWithout: ['in'],
    closes: untracked,
  },
  'filter-pair': {
    family: 'filter',
    summary: 'Two state variable filters, one behind the other or side by side.',
    equation:
      'series: out = B(A(in)); parallel: out = (A(in) + B(in))/2; each as in state-variable',
    source: `${ZDF}, chapter 4`,
    inputs: {
      in: 'audio',
      cutoff1: 'modulation',
      cutoff2: 'modulation',
      pitch: 'pitch',
      ...pairWhistle.inputs,
    },
    byVoltage: pairWhistle.byVoltage,
    outputs,
    params: {
      routing: choice(['series', 'parallel']),
      mode1: choice(filterModes.slice(0, 4)),
      cutoff1: number('Hz', 5, 20000, 1000, 20000),
      resonance1: number('', 0, 1, 0, 0),
      mode2: choice(filterModes.slice(0, 4)),
      cutoff2: number('Hz', 5, 20000, 1000, 20000),
      resonance2: number('', 0, 1, 0, 0),
      ...track,
    },
    silentWithout: ['in'],
    closes: untracked,
  },
  'high-pass-12': {
    family: 'filter',
    summary: 'Two-pole high-pass without resonance.',
    equation: 'H = s^2/(s^2 + sqrt(2) s + 1)',
    source: `${ZDF}, chapter 4`,
    inputs: { in: 'audio' },
    outputs: { out: 'audio' },
    params: { cutoff: number('Hz', 5, 20000, 5, 5) },
    silentWithout: ['in'],
    bounds: asItComes,
  },
  bank: {
    family: 'filter',
    summary: 'Fixed bank of ten bands an octave apart, each with its level.',
    equation: `out = sum of band_i * B_i(in), B_i = (s/Q)/(s^2 + s/Q + 1), Q = 1.414, at ${BANK_HZ.join(', ')} Hz`,
    source: `${ZDF}, chapter 4`,
    inputs: { in: 'audio' },
    outputs: { out: 'audio' },
    params: Object.fromEntries(
      BANK_HZ.map((_, i) => [`band${i + 1}`, number('x', 0, 2, 1)]),
    ) as Record<`band${number}`, ReturnType<typeof number>>,
    silentWithout: ['in'],
  },
  tilt: {
    family: 'filter',
    summary: 'Tilts the spectrum about a pivot.',
    equation:
      'out = 10^(-tilt/20) * low(in) + 10^(tilt/20) * (in - low(in)), low one pole at pivot',
    source: `${ZDF}, chapter 3`,
    inputs: { in: 'audio', ...tiltMoves.inputs },
    byVoltage: tiltMoves.byVoltage,
    outputs: { out: 'audio' },
    params: { pivot: number('Hz', 20, 20000, 640), tilt: number('dB', -12, 12, 0, 0) },
    silentWithout: ['in'],
  },
} as const satisfies Record<string, ModuleSpec>;
