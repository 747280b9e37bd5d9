import { exp2, sinTurns, tanTurns } from '../../theory/portable';
import { peakSquared, type Prototype, slopeOf, valueOf } from '../../theory/prototypes';

/**
 * The bilinear transformation bends the scale of frequencies: it puts the cutoff of a prototype in its place and moves
 * everything else. Here that is bent back: for each cutoff and damping a shift of the cutoff, another damping and a share
 * of the sample before in the output are worked out, with which the level at the cutoff and the place and height of the
 * resonance's peak are the prototype's. The level far below the cutoff (for a high-pass the slope there) is kept.
 * Method: the three conditions, in the squared magnitudes, solved by Newton's iteration from cutoffs at which nothing is
 * bent yet upward. Squared magnitudes are written over p = sin^2(pi f/fs), in which the output's two taps are 1 + lift p.
 */
export interface WarpCompensation {
  /** Octaves by which the cutoff is shifted. */
  octaves: number;
  /** The damping over the prototype's. */
  damping: number;
  /** What the output's two taps add to its squared magnitude at half the sample rate. */
  lift: number;
}

/** A low-pass, or the high-pass that is its mirror image. */
export type Side = 'low' | 'high';

function place(turns: number): number {
  const sine = sinTurns(turns / 2);
  return sine * sine;
}

/** A high-pass keeps its slope far below when it is scaled by this. */
export function gainOf(side: Side, cutoff: number, octaves: number): number {
  const ratio = tanTurns((cutoff * exp2(octaves)) / 2) / (Math.PI * cutoff);
  return side === 'low' ? 1 : ratio * ratio;
}

/** The digital filter against its prototype at one damping. */
class Comparison {
  /** Of the prototype: frequency of its peak, in cutoffs; 1/|H|^2 there and at the cutoff. */
  private readonly top: number;
  private readonly wantedTop: number;
  private readonly wantedCorner: number;
  private cutoff = 0;
  private corner = 0;
  peak = 0;

  constructor(
    private readonly proto: Prototype,
    private readonly side: Side,
    readonly damping: number,
  ) {
    const power = proto.power(damping);
    const top = peakSquared(power);
    this.wantedTop = valueOf(power, top) / power[0]!;
    this.wantedCorner = valueOf(power, 1) / power[0]!;
    this.top = side === 'low' ? Math.sqrt(top) : 1 / Math.sqrt(top);
  }

  /** @param cutoff over the sample rate */
  at(cutoff: number): this {
    this.cutoff = cutoff;
    this.corner = place(cutoff);
    this.peak = cutoff * this.top;
    return this;
  }

  /** Puts into `into` what is still missing: level at the cutoff, level at the peak, slope there. */
  misses(octaves: number, damping: number, lift: number, into: Float64Array): void {
    const g = tanTurns((this.cutoff * exp2(octaves)) / 2);
    const power = this.proto.power(damping);
    const amplitude = gainOf(this.side, this.cutoff, octaves);
    const gain = amplitude * amplitude * power[0]!;
    const corner = this.corner / (1 - this.corner) / (g * g);
    const atCorner = valueOf(power, this.side === 'low' ? corner : 1 / corner);
    into[0] = (gain * (1 + lift * this.corner) * this.wantedCorner) / atCorner - 1;
    const p = place(this.peak);
    const x = p / (1 - p) / (g * g);
    // Slopes over the logarithm of p.
    const v = this.side === 'low' ? x : 1 / x;
    const steep = (this.side === 'low' ? v : -v) / (1 - p);
    const atPeak = valueOf(power, v);
    into[1] = (gain * (1 + lift * p) * this.wantedTop) / atPeak - 1;
    into[2] = (lift * p) / (1 + lift * p) - (slopeOf(power, v) * steep) / atPeak;
  }
}

const STEP = 1e-5;
/** The three misses now, and their slopes over the three unknowns. */
const NOW = new Float64Array(3);
const SLOPES = [new Float64Array(3), new Float64Array(3), new Float64Array(3)] as const;
const BELOW = new Float64Array(3);

type Column = Readonly<Float64Array>;
const determinant = (a: Column, b: Column, c: Column): number =>
  a[0]! * (b[1]! * c[2]! - b[2]! * c[1]!) -
  b[0]! * (a[1]! * c[2]! - a[2]! * c[1]!) +
  c[0]! * (a[1]! * b[2]! - a[2]! * b[1]!);

/** All three conditions, from a guess; null where they have no solution near it. */
function solveAll(compared: Comparison, guess: WarpCompensation): WarpCompensation | null {
  let octaves = guess.octaves;
  let damping = guess.damping * compared.damping;
  let lift = guess.lift;
  const [a, b, c] = SLOPES;
  for (let round = 0; round < 12; round++) {
    compared.misses(octaves, damping, lift, NOW);
    const worst = Math.max(Math.abs(NOW[0]!), Math.abs(NOW[1]!), Math.abs(NOW[2]!));
    if (worst < 1e-8) return { octaves, damping: damping / compared.damping, lift };
    if (!(worst < 1e3)) return null;
    compared.misses(octaves + STEP, damping, lift, a);
    compared.misses(octaves, damping + STEP, lift, b);
    compared.misses(octaves, damping, lift + STEP, c);
    for (const slope of SLOPES) for (let m = 0; m < 3; m++) slope[m] = (slope[m]! - NOW[m]!) / STEP;
    const all = determinant(a, b, c);
    octaves -= determinant(NOW, b, c) / all;
    damping -= determinant(a, NOW, c) / all;
    lift -= determinant(a, b, NOW) / all;
  }
  return null;
}

/** The damping alone, for the level at the cutoff; the guess where there is none. */
function solveCorner(compared: Comparison, guess: WarpCompensation): WarpCompensation {
  const { damping } = compared;
  let d = guess.damping;
  for (let round = 0; round < 12; round++) {
    compared.misses(guess.octaves, d * damping, guess.lift, NOW);
    const miss = NOW[0]!;
    if (Math.abs(miss) < 1e-8) return { ...guess, damping: d };
    compared.misses(guess.octaves, (d + STEP) * damping, guess.lift, BELOW);
    d -= (miss * STEP) / (BELOW[0]! - miss);
    if (!(d > 0.2 && d < 20)) return guess;
  }
  return guess;
}

const NOTHING: WarpCompensation = { octaves: 0, damping: 1, lift: 0 };
/** Where nothing is bent, the two taps are what makes up for the second order of the bending. */
const FIRST_LIFT = 1.39;
/** Up to these parts of the sample rate the peak is put in its place: a cutoff, and the peak itself. */
const HIGHEST_CUTOFF = 0.31;
const HIGHEST_PEAK = 0.42;
/** A peak below this part of the cutoff is no more than 0.3 dB high. */
const LOWEST_PEAK = 0.3;

/** How a prototype is bent back at each of some rising cutoffs over the sample rate. */
export function compensateWarp(
  proto: Prototype,
  side: Side,
  damping: number,
  cutoffs: readonly number[],
): WarpCompensation[] {
  const top = Math.sqrt(peakSquared(proto.power(damping)));
  if (top < LOWEST_PEAK) return unbendFlat(proto, side, damping, cutoffs);
  let last: WarpCompensation = { ...NOTHING, lift: side === 'low' ? FIRST_LIFT : 0 };
  const compared = new Comparison(proto, side, damping);
  return cutoffs.map((cutoff) => {
    compared.at(cutoff);
    const within = cutoff <= HIGHEST_CUTOFF && compared.peak <= HIGHEST_PEAK;
    const all = within ? solveAll(compared, last) : null;
    last = all ?? solveCorner(compared, last);
    return last;
  });
}

/** Without a peak worth the name: ever less from where there is one, nothing at all without resonance. */
function unbendFlat(
  proto: Prototype,
  side: Side,
  damping: number,
  cutoffs: readonly number[],
): WarpCompensation[] {
  let [flat, peaked] = [proto.free, 0];
  for (let i = 0; i < 40; i++) {
    const middle = (flat + peaked) / 2;
    if (Math.sqrt(peakSquared(proto.power(middle))) < LOWEST_PEAK) flat = middle;
    else peaked = middle;
  }
  const share = (proto.free - damping) / (proto.free - peaked);
  const compared = new Comparison(proto, side, damping);
  return compensateWarp(proto, side, peaked, cutoffs).map((full, i) =>
    solveCorner(compared.at(cutoffs[i]!), {
      octaves: share * full.octaves,
      damping: 1 + share * (full.damping - 1),
      lift: share * full.lift,
    }),
  );
}
