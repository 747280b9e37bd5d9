/** Second-order section: y = b0 x + b1 x' + b2 x'' - a1 y' - a2 y''. */
interface Section {
  b: readonly [number, number, number];
  a: readonly [number, number];
}

/** Loudness of silence, in LUFS. */
export const SILENT_LUFS = -70;

/**
 * K-weighting at a sample rate: a shelf for the head and a high-pass, both by the bilinear transform of the analogue
 * filters behind the coefficients that the recommendation prints for 48 kHz.
 * Source: ITU-R BS.1770-4, annex 1; analogue parameters after B. De Man, Evaluation of Implementations of the EBU R128
 * Loudness Measurement, AES 145 (2018).
 */
function weighting(sampleRate: number): [Section, Section] {
  const shelf = ((): Section => {
    const k = Math.tan((Math.PI * 1681.974450955533) / sampleRate);
    const q = 0.7071752369554196;
    const high = 10 ** (3.999843853973347 / 20);
    const middle = high ** 0.4996667741545416;
    const a0 = 1 + k / q + k * k;
    return {
      b: [
        (high + (middle * k) / q + k * k) / a0,
        (2 * (k * k - high)) / a0,
        (high - (middle * k) / q + k * k) / a0,
      ],
      a: [(2 * (k * k - 1)) / a0, (1 - k / q + k * k) / a0],
    };
  })();
  const k = Math.tan((Math.PI * 38.13547087602444) / sampleRate);
  const q = 0.5003270373238773;
  const a0 = 1 + k / q + k * k;
  const highPass: Section = {
    b: [1, -2, 1],
    a: [(2 * (k * k - 1)) / a0, (1 - k / q + k * k) / a0],
  };
  return [shelf, highPass];
}

function filter(samples: ArrayLike<number>, { b, a }: Section): Float64Array {
  const out = new Float64Array(samples.length);
  let [x1, x2, y1, y2] = [0, 0, 0, 0];
  for (let i = 0; i < samples.length; i++) {
    const x = samples[i]!;
    const y = b[0] * x + b[1] * x1 + b[2] * x2 - a[0] * y1 - a[1] * y2;
    x2 = x1;
    x1 = x;
    y2 = y1;
    y1 = y;
    out[i] = y;
  }
  return out;
}

const lufs = (power: number): number => -0.691 + 10 * Math.log10(power);

/**
 * Integrated loudness in LUFS of one or two channels, -1..1; gated at -70 LUFS and 10 LU below the rest. A sound shorter
 * than a block of 400 ms is measured as one block.
 * Source: ITU-R BS.1770-4.
 */
export function loudnessOf(channels: readonly ArrayLike<number>[], sampleRate: number): number {
  const [shelf, highPass] = weighting(sampleRate);
  const weighted = channels.map((c) => filter(filter(c, shelf), highPass));
  const length = weighted[0]?.length ?? 0;
  const block = Math.min(length, Math.round(0.4 * sampleRate));
  if (block === 0) return SILENT_LUFS;
  const hop = Math.max(1, Math.round(0.1 * sampleRate));
  const powers: number[] = [];
  for (let from = 0; from + block <= length; from += hop) {
    let sum = 0;
    for (const channel of weighted) {
      for (let i = from; i < from + block; i++) sum += channel[i]! ** 2;
    }
    powers.push(sum / block);
  }
  const mean = (values: number[]): number => values.reduce((s, v) => s + v, 0) / values.length;
  const heard = powers.filter((p) => lufs(p) > SILENT_LUFS);
  if (heard.length === 0) return SILENT_LUFS;
  const gate = lufs(mean(heard)) - 10;
  return lufs(mean(heard.filter((p) => lufs(p) > gate)));
}
