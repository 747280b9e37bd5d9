import { BLOCK } from '../kernel';
import { diodeLadder, ladder, type Prototype, threePole, twoPole } from '../../theory/prototypes';
import { gainOf, type Side, compensateWarp } from './warp';

/** Lines of a table, by damping from none to `free`, and columns, by cutoff over sample rate. */
const LINES = 32;
const COLUMNS = 36;
const COLUMN = 0.0125;
const FIELDS = 4;
const WIDTH = (COLUMNS + 1) * FIELDS;

/** Octaves, damping, share of the sample before and gain, line by line; a line is worked out when first asked for. */
class Table {
  readonly values = new Float64Array((LINES + 1) * WIDTH);
  private readonly known = new Uint8Array(LINES + 1);

  constructor(
    private readonly proto: Prototype,
    private readonly side: Side,
  ) {}

  /** Sees to it that a line and the next are there. */
  have(line: number): void {
    if (this.known[line] === 0) this.fill(line);
    if (this.known[line + 1] === 0) this.fill(line + 1);
  }

  private fill(line: number): void {
    const { values, proto, side } = this;
    const start = line * WIDTH;
    this.known[line] = 1;
    if (line === LINES) {
      // Where it whistles the cutoff stands in its place; all else goes on from the line before.
      if (this.known[line - 1] === 0) this.fill(line - 1);
      values.copyWithin(start, start - WIDTH, start);
      for (let c = 0; c <= COLUMNS; c++) values[start + c * FIELDS] = 0;
      return;
    }
    const solved = compensateWarp(proto, side, proto.free * (1 - line / LINES), CUTOFFS);
    // Where the cutoff is lowest nothing is bent.
    [{ ...solved[0]!, octaves: 0, damping: 1 }, ...solved].forEach((u, column) => {
      const gain = column === 0 ? 1 : gainOf(side, CUTOFFS[column - 1]!, u.octaves);
      const past = (1 - Math.sqrt(1 + u.lift)) / 2;
      values.set([u.octaves, u.damping, past, gain], start + column * FIELDS);
    });
  }
}

const CUTOFFS = Array.from({ length: COLUMNS }, (_, i) => COLUMN * (i + 1));
const tables: Record<Side, Map<Prototype, Table>> = { low: new Map(), high: new Map() };

function tableOf(proto: Prototype, side: Side): Table {
  let table = tables[side].get(proto);
  if (!table) tables[side].set(proto, (table = new Table(proto, side)));
  return table;
}

/** Where the numbers of a block's end stand, and those of its beginning. */
const enum At {
  octaves,
  damping,
  past,
  gain,
}
const enum Was {
  octaves = 4,
  damping,
  past,
  gain,
}

/** All tables, those first that most instruments need. */
const ALL = [
  [ladder, 'low'],
  [twoPole, 'low'],
  [threePole, 'low'],
  [diodeLadder, 'low'],
  [twoPole, 'high'],
] as const;
let prepared = 0;

/**
 * Works out one line more of all tables, until all are there: for an audio thread, which should not have to work out
 * many at once when a filter of another kind comes into a sound that plays.
 */
export function prepareLine(): void {
  if (prepared === ALL.length * LINES) return;
  const [proto, side] = ALL[Math.floor(prepared / LINES)]!;
  tableOf(proto, side).have(prepared % LINES);
  prepared++;
}

/** Where it stands what is asked for: damping and cutoff of the prototype at a block's end, and which way it leans. */
export enum Ask {
  damping,
  /** Over the sample rate. */
  cutoff,
  /** 1 for a low-pass, -1 for a high-pass, 0 for what needs nothing, and what lies between. */
  lean,
}

/**
 * What a filter of a prototype sets so that the bilinear transformation bends nothing, from block to block: it goes in
 * straight lines from one to the next. See `compensation`. Numbers come and go in arrays: handed over by themselves each would
 * be something made for the collector.
 */
export class WarpCompensator {
  /** To be written to before a turn. */
  readonly ask = Float64Array.of(0, 0, 1);
  private readonly asked = Float64Array.of(NaN, NaN, NaN);
  private readonly N = new Float64Array(2 * FIELDS);

  constructor(private readonly proto: Prototype) {}

  /** Moves on by a block, to what is asked for. */
  turn(): void {
    const { N, ask, asked } = this;
    const first = Number.isNaN(asked[0]);
    N[Was.octaves] = N[At.octaves]!;
    N[Was.damping] = N[At.damping]!;
    N[Was.past] = N[At.past]!;
    N[Was.gain] = N[At.gain]!;
    if (asked[0] === ask[0] && asked[1] === ask[1] && asked[2] === ask[2]) return;
    asked[0] = ask[0]!;
    asked[1] = ask[1]!;
    asked[2] = ask[2]!;
    this.look();
    if (first) N.copyWithin(FIELDS, 0, FIELDS);
  }

  private look(): void {
    const { N, asked } = this;
    const damping = asked[Ask.damping]!;
    const lean = asked[Ask.lean]!;
    if (lean === 0) {
      N[At.octaves] = N[At.past] = 0;
      N[At.gain] = 1;
      N[At.damping] = damping;
      return;
    }
    const table = tableOf(this.proto, lean > 0 ? 'low' : 'high');
    const much = lean > 0 ? lean : -lean;
    const x = Math.min(asked[Ask.cutoff]! / COLUMN, COLUMNS - 1e-9);
    const y = Math.max(0, Math.min(1 - damping / this.proto.free, 1)) * LINES;
    const line = Math.min(Math.floor(y), LINES - 1);
    const column = Math.floor(x);
    table.have(line);
    const t = table.values;
    // Shares of the four places around it.
    const right = x - column;
    const down = y - line;
    const d = right * down;
    const c = down - d;
    const b = right - d;
    const a = 1 - right - c;
    const at = line * WIDTH + column * FIELDS;
    const next = at + FIELDS;
    const under = at + WIDTH;
    const last = under + FIELDS;
    N[At.octaves] = much * (a * t[at]! + b * t[next]! + c * t[under]! + d * t[last]!);
    const ratio =
      1 +
      much *
        (a * t[at + At.damping]! +
          b * t[next + At.damping]! +
          c * t[under + At.damping]! +
          d * t[last + At.damping]! -
          1);
    N[At.past] =
      much *
      (a * t[at + At.past]! +
        b * t[next + At.past]! +
        c * t[under + At.past]! +
        d * t[last + At.past]!);
    N[At.gain] =
      1 +
      much *
        (a * t[at + At.gain]! +
          b * t[next + At.gain]! +
          c * t[under + At.gain]! +
          d * t[last + At.gain]! -
          1);
    // A whistle is as loud as the prototype's when what undamps it grows as its square.
    N[At.damping] = damping < 0 ? damping / (ratio * ratio) : damping * ratio;
  }

  /** Octaves by which the cutoff is shifted, where the block begins and ends. */
  get octavesWas(): number {
    return this.N[Was.octaves]!;
  }
  get octaves(): number {
    return this.N[At.octaves]!;
  }
  get dampingWas(): number {
    return this.N[Was.damping]!;
  }
  get damping(): number {
    return this.N[At.damping]!;
  }
  /** Share of the sample before in the output. */
  get pastWas(): number {
    return this.N[Was.past]!;
  }
  get pastSlope(): number {
    return (this.N[At.past]! - this.pastWas) / BLOCK;
  }
  get gainWas(): number {
    return this.N[Was.gain]!;
  }
  get gainSlope(): number {
    return (this.N[At.gain]! - this.gainWas) / BLOCK;
  }
}
