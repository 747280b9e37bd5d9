import {
  type Break,
  callNames,
  callsInOrder,
  type Evening,
  type EveningPlan,
  formatDuration,
  formatSetting,
  moverOf,
  nameOf,
  panelOf,
  panelsNotSeen,
  planEvening,
  type Portion,
  type Recorded,
  sayStep,
  type Song,
  type SongPatch,
  songTimes,
  type StagePanel,
  type Known,
  type Ways,
  waysOf,
} from '@hurrel/core';
import { drawPanel } from './panel-on-paper';
import { type Doc, drawBox, INNER, makePaper, PAGE, put } from './paper';

/** A set with all that its booklet tells of. */
export interface BookletContent extends Known {
  evening: Evening;
}

const BOTTOM = PAGE.height - PAGE.margin - 14;
/** Letters that are read from a music stand, as large as one page takes; what is longer goes on on the next. */
const SIZES = [17, 15.5, 14, 13, 12] as const;
const LONG = 13;

/** An evening on paper: the songs with their breaks, a page a break, a page a panel. Large, black and white. */
export function makeBooklet(content: BookletContent): Promise<Uint8Array> {
  const { evening } = content;
  const ways = waysOf(evening, content);
  const plan = planEvening(evening, ways);
  return makePaper(evening.name, (doc) => {
    const book = new Book(doc, evening, plan, ways, content.before);
    book.overview();
    plan.breaks.forEach((one, at) => {
      if (one.portions.length + one.during.length > 0) book.break(one, at);
    });
    for (const panel of evening.panels) book.panel(panel);
  });
}

class Book {
  private page = 0;

  constructor(
    private readonly doc: Doc,
    private readonly evening: Evening,
    private readonly plan: EveningPlan,
    private readonly ways: Ways,
    private readonly before: BookletContent['before'],
  ) {}

  /** The evening on one page: every song, the break before it, and what is prepared. */
  overview(): void {
    const { evening, plan, doc } = this;
    let y = this.begin(
      evening.name,
      [evening.place, evening.date ?? ''].filter(Boolean).join(', '),
    );
    const calls = callsInOrder(evening.calls).map(({ kind, at }) => `${callNames[kind]} ${at}`);
    if (calls.length > 0) y = this.line(calls.join('   '), 13, y, 'bold');
    const begins = songTimes(evening);
    const lacks = plan.breaks.filter((b, i) => b.over > 0 && !evening.songs[i]!.wished).length;
    y = this.line(
      `${plan.movements} movements, ${formatDuration(plan.seconds)} of hands. ${lacks === 0 ? 'Every break suffices.' : `${lacks} ${lacks === 1 ? 'break does' : 'breaks do'} not suffice.`}`,
      13,
      y,
    );
    const { start, unknown } = panelsNotSeen(evening, this.before);
    for (const { name } of unknown)
      y = this.line(`Nobody knows how ${name} stands: every control that matters is set.`, 11, y);
    if (start.length > 0)
      y = this.line(`At their start before: ${start.map((p) => p.name).join(', ')}.`, 11, y);
    for (const { song, panel } of plan.gone)
      y = this.line(
        `What ${this.songName(song)} plays on ${this.panelName(panel)} is gone.`,
        13,
        y,
        'bold',
      );
    const size = Math.max(
      8,
      Math.min(14, (0.55 * PAGE.height) / Math.max(1, evening.songs.length) / 1.5),
    );
    evening.songs.forEach((song, i) => {
      const one = plan.breaks[i]!;
      const most = Math.max(0, ...Object.values(one.loads));
      if (y > BOTTOM - 2 * size) y = this.turn(evening.name);
      put(doc, 'mono', size, formatDuration(song.pause), PAGE.margin, y);
      put(doc, 'bold', size, `${i + 1}  ${song.name}`, PAGE.margin + 70, y, 300);
      const kind = { song: '', encore: 'encore', reserve: 'in reserve' }[song.kind];
      const says = [
        kind,
        most > 0 ? `needs ${formatDuration(most)}` : '',
        overSays(one, song),
        begins.has(song.id) ? `at ${begins.get(song.id)}` : '',
      ].filter(Boolean);
      put(
        doc,
        one.over > 0 ? 'bold' : 'text',
        size * 0.85,
        says.join(', '),
        PAGE.margin + 380,
        y + 1,
        150,
      );
      y += size * 1.5;
    });
    for (const { id, name, stands } of evening.people) {
      const theirs = evening.panels.filter((p) => moverOf(evening, p) === id).map((p) => p.name);
      if (theirs.length + stands.length === 0) continue;
      y = this.line(
        `${[name, stands].filter(Boolean).join(', ')}: ${theirs.join(', ')}`,
        11,
        y + 2,
      );
    }
    if (plan.kept.length > 0) y = this.heading('At home: store', y + 8);
    for (const kept of plan.kept)
      y = this.ticked(
        `${kept.place} on ${this.panelName(kept.panel)}: ${this.soundName(kept.play)}  (${kept.movements} movements, ${formatDuration(kept.seconds)})`,
        12,
        y,
      );
    if (plan.compromises.length > 0) y = this.heading('At sound check: let it stand', y + 8);
    for (const one of plan.compromises) {
      const found = this.found(one.from, one.panel);
      const control = found?.instrument.controls.find((c) => c.id === one.control);
      const section = found?.instrument.sections.find((s) => s.id === control?.section);
      if (control)
        y = this.ticked(
          `${this.panelName(one.panel)} ${section?.name ?? ''} ${control.name}: ${formatSetting(control, one.setting)}, from ${this.songName(one.from)} to ${this.songName(one.to)}`,
          12,
          y,
        );
    }
  }

  /** One break: who moves what, in order, large enough for a music stand. */
  break(one: Break, at: number): void {
    const song = this.evening.songs[at]!;
    const when = at === 0 ? 'Before doors' : `After ${this.evening.songs[at - 1]!.name}`;
    let y = this.begin(
      `${at + 1}  ${song.name}`,
      [
        `${when}: ${formatDuration(one.length)}${song.wished ? ' wished for' : ''}`,
        overSays(one, song),
      ]
        .filter(Boolean)
        .join(', '),
    );
    if (song.note) y = this.line(song.note, 13, y, 'italic');
    const rows = this.rowsOf(one);
    const room = BOTTOM - y;
    const size = SIZES.find((s) => this.height(rows, s) <= room) ?? LONG;
    for (const row of rows) {
      const high = this.rowHeight(row, size);
      if (y + high > BOTTOM) y = this.turn(`${at + 1}  ${song.name}, continued`);
      y = row.head
        ? this.heading(row.text, y + size * 0.4, size * 1.05)
        : this.ticked(row.text, size, y);
    }
  }

  /** One panel: how it stands at first, and song by song what it plays. */
  panel(panel: StagePanel): void {
    const songs = this.evening.songs.flatMap((song, i) => {
      const play = song.plays.find((p) => p.panel === panel.id);
      return play && song.kind !== 'reserve' ? [{ song, i, play }] : [];
    });
    const [first] = songs;
    if (!first) return;
    const person = this.evening.people.find((p) => p.id === moverOf(this.evening, panel));
    let y = this.begin(panel.name, person ? `moved by ${person.name}` : '');
    const found = this.found(first.song.id, panel.id);
    if (found) {
      y = this.line(`As it stands for ${first.song.name}: ${found.patch.name}`, 11, y);
      y = drawPanel(this.doc, found, y + 4, 0.42 * PAGE.height) + 6;
    }
    let last: SongPatch | null = null;
    for (const { song, i, play } of songs) {
      const stays = last !== null && nameOf(last) === nameOf(play);
      const moves = this.plan.breaks
        .flatMap((b) => [...b.during, ...b.portions])
        .filter((p) => p.panel === panel.id && p.song === song.id)
        .reduce((sum, p) => sum + p.steps.length, 0);
      if (y > BOTTOM - 24) y = this.turn(`${panel.name}, continued`);
      const bars =
        (play.from ?? play.to) ? `, bars ${play.from ?? 1} to ${play.to ?? 'the end'}` : '';
      y = this.ticked(
        `${i + 1}  ${song.name}: ${this.soundName(play)}${bars}  (${stays ? 'stays' : `${moves} movements`})`,
        13,
        y,
      );
      last = play;
    }
  }

  private rowsOf(one: Break): { head: boolean; text: string }[] {
    const people = new Map(this.evening.people.map((p) => [p.id, p.name]));
    const told = (portion: Portion, during: boolean): { head: boolean; text: string }[] => {
      const face = this.found(portion.song, portion.panel)?.instrument;
      const who = people.get(portion.person) ?? '';
      const early = portion.early ? `, already for ${this.songName(portion.song)}` : '';
      const heading = [
        [who, this.panelName(portion.panel)].filter(Boolean).join(': '),
        `${formatDuration(portion.seconds)}${early}${during ? ', while the song before is still played' : ''}`,
      ];
      return [
        { head: true, text: heading.join(', ') },
        ...portion.steps.map((step) => ({
          head: false,
          // The fonts of the sheet have no arrow.
          text: (face ? sayStep(face, step) : step.id).replaceAll('→', 'to'),
        })),
      ];
    };
    const inOrder = (all: readonly Portion[]): Portion[] =>
      [...all].sort((a, b) => a.person.localeCompare(b.person));
    return [
      ...inOrder(one.during).flatMap((p) => told(p, true)),
      ...inOrder(one.portions).flatMap((p) => told(p, false)),
    ];
  }

  private begin(title: string, under: string): number {
    if (this.page++ > 0) this.doc.addPage();
    const { margin } = PAGE;
    put(this.doc, 'bold', 28, title, margin, margin - 6, INNER);
    if (under) put(this.doc, 'bold', 17, under, margin, margin + 30, INNER);
    put(
      this.doc,
      'text',
      9,
      `${this.evening.name}, page ${this.page}. Times are estimates.`,
      margin,
      PAGE.height - margin - 6,
      INNER,
    );
    this.doc
      .lineWidth(1.5)
      .strokeColor('#000')
      .moveTo(margin, margin + 56)
      .lineTo(margin + INNER, margin + 56)
      .stroke();
    return margin + 66;
  }

  private turn(title: string): number {
    return this.begin(title, '');
  }

  private line(text: string, size: number, y: number, font = 'text'): number {
    this.doc.font(font).fontSize(size).fillColor('#000');
    this.doc.text(text, PAGE.margin, y, { width: INNER });
    return y + this.doc.heightOfString(text, { width: INNER }) + size * 0.35;
  }

  private heading(text: string, y: number, size = 15): number {
    return this.line(text, size, y, 'bold');
  }

  private ticked(text: string, size: number, y: number): number {
    drawBox(this.doc, PAGE.margin, y, size);
    const left = PAGE.margin + size * 1.4;
    const width = INNER - size * 1.4;
    this.doc.font('text').fontSize(size).fillColor('#000');
    this.doc.text(text, left, y, { width });
    return y + this.doc.heightOfString(text, { width }) + size * 0.3;
  }

  private rowHeight(row: { head: boolean; text: string }, size: number): number {
    const [font, of] = row.head ? ['bold', size * 1.05] : ['text', size];
    const width = row.head ? INNER : INNER - size * 1.4;
    this.doc.font(font as string).fontSize(of as number);
    const gap = row.head ? size * 0.77 : size * 0.3;
    return this.doc.heightOfString(row.text, { width }) + gap;
  }

  private height(rows: readonly { head: boolean; text: string }[], size: number): number {
    return rows.reduce((sum, row) => sum + this.rowHeight(row, size), 0);
  }

  private found(song: string, panel: string): Recorded | undefined {
    const play = this.evening.songs
      .find((s) => s.id === song)
      ?.plays.find((p) => p.panel === panel);
    const found = play && this.ways.recorded(play, panel);
    // With the modules and the things behind it that the patch has put there.
    return found && { ...found, instrument: panelOf(found.instrument, found.patch) };
  }

  private soundName(play: SongPatch): string {
    const patch = this.ways.recorded(play, play.panel)?.patch;
    const variation = patch?.variations.find((v) => v.id === play.variation);
    return patch
      ? [patch.name, variation?.name].filter(Boolean).join(': ')
      : 'a patch that is gone';
  }

  private panelName(id: string): string {
    return this.evening.panels.find((p) => p.id === id)?.name ?? id;
  }

  private songName(id: string): string {
    return this.evening.songs.find((s) => s.id === id)?.name ?? id;
  }
}

/** What a break lacks; of one whose length is a wish, by what it is longer. */
const overSays = ({ over }: Break, { wished }: Song): string =>
  over > 0 ? `${wished ? 'longer by' : 'lacks'} ${formatDuration(over)}` : '';
