import { readdirSync, readFileSync } from 'node:fs';
import { instrumentSchema } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import { panelOf } from '../instrument/panel-of';
import { drawControl } from './draw-control';
import { drawJack } from './draw-jack';
import { jackNameSizes, nameSizes, TITLE_AFTER, titleSize } from './name-sizes';
import { wordWidth } from './word-width';

const library = new URL('../../../library/instruments/', import.meta.url);
const faces = readdirSync(library).map((file) =>
  panelOf(instrumentSchema.parse(JSON.parse(readFileSync(new URL(file, library), 'utf8')))),
);

describe('the names on a panel', () => {
  it.each(faces.map((f) => [f.name, f] as const))(
    'of %s are larger where there is room, and no two of one line meet that did not',
    (_, face) => {
      for (const section of face.sections) {
        const controls = face.controls.filter((c) => c.section === section.id);
        const sizes = nameSizes(controls, section);
        const names = controls.map((c) => {
          const size = sizes.get(c.id)!;
          const shape = drawControl(c, undefined, size).find(
            (s) => s.kind === 'text' && s.lettering === 'name',
          );
          if (shape?.kind !== 'text') throw new Error(`${c.name} has no name`);
          expect(shape.size).toBe(size);
          return { x: shape.x, y: shape.y, size, half: (size * wordWidth(c.name)) / 2 };
        });
        names.forEach((a, i) => {
          expect(a.size).toBeGreaterThanOrEqual(11.5);
          expect(a.size).toBeLessThanOrEqual(15);
          if (a.size === 11.5) return;
          expect(a.x - a.half).toBeGreaterThanOrEqual(section.x);
          expect(a.x + a.half).toBeLessThanOrEqual(section.x + section.width);
          for (const b of names.slice(i + 1))
            if (Math.abs(a.y - b.y) < 12 && b.size > 11.5)
              expect(Math.abs(a.x - b.x)).toBeGreaterThanOrEqual(a.half + b.half - 1);
        });
      }
    },
  );

  it.each(faces.map((f) => [f.name, f] as const))(
    'of jacks of %s are larger where there is room, and meet no other that did not',
    (_, face) => {
      const sizes = jackNameSizes(face);
      expect(sizes.size).toBe(face.jacks.length);
      const names = face.jacks.map((jack) => {
        const size = sizes.get(jack.id)!;
        const shape = drawJack(jack, size).find((s) => s.kind === 'text');
        if (shape?.kind !== 'text') throw new Error(`${jack.name} has no name`);
        const half = (size * wordWidth(jack.name)) / 2;
        return { x: shape.x, y: shape.y, size, half, section: jack.section };
      });
      names.forEach((a, i) => {
        expect(a.size).toBeGreaterThanOrEqual(10.5);
        expect(a.size).toBeLessThanOrEqual(14.2);
        if (a.size === 10.5) return;
        for (const b of names.slice(i + 1))
          if (a.section === b.section && Math.abs(a.y - b.y) < 12 && b.size > 10.5)
            expect(Math.abs(a.x - b.x)).toBeGreaterThanOrEqual(a.half + b.half - 1);
      });
    },
  );

  it('of most jacks grow somewhere', () => {
    const all = faces.flatMap((face) => [...jackNameSizes(face).values()]);
    expect(all.filter((size) => size > 10.5).length / all.length).toBeGreaterThan(0.4);
  });

  it('are as large as letters become where nothing is near', () => {
    const [face] = faces;
    const control = { ...face!.controls[0]!, place: { x: 100, y: 100, size: 40 } };
    expect([...nameSizes([control]).values()]).toEqual([15]);
  });

  it('are as wide as their letters are', () => {
    expect(wordWidth('fade in')).toBeCloseTo(0.31 + 0.53 + 0.56 + 0.54 + 0.28 + 0.25 + 0.55, 9);
    expect(wordWidth('mm')).toBeGreaterThan(3 * wordWidth('ii'));
    // A letter of another script takes room too.
    expect(wordWidth('ж')).toBeGreaterThan(0.5);
  });
});

/** What the chart gives a panel at 1280x800, in pixels. */
const SHEET = { width: 950, height: 559 };
/** Positions whose word has no room for so much. */
const SHORT_OF_ROOM = ['Curlew: ramp down', 'Skimmer: half-dim.'];

describe('a panel of up to sixty controls at 1280x800', () => {
  const some = faces.filter((f) => f.controls.length <= 60 && f.controls.length > 5);

  it.each(some.map((f) => [f.name, f] as const))(
    'has on the %s no name under 12 pixels, and chosen positions of 14 and more',
    (name, face) => {
      const { width, height } = face.panel;
      const scale = Math.min(SHEET.width / width, SHEET.height / height);
      const small: string[] = [];
      const look = (what: string, size: number, least: number): void => {
        if (size * scale < least - 0.05) small.push(`${what} ${(size * scale).toFixed(1)}`);
      };
      const jacks = jackNameSizes(face);
      for (const jack of face.jacks) look(jack.name, jacks.get(jack.id)!, 12);
      for (const section of face.sections) {
        const controls = face.controls.filter((c) => c.section === section.id);
        const sizes = nameSizes(controls, section);
        for (const c of controls) look(c.name, sizes.get(c.id)!, 12);
        look(section.name, titleSize(section, TITLE_AFTER.long), 12);
      }
      expect(small).toEqual([]);
      for (const control of face.controls.filter(isSwitched))
        for (const position of control.positions) {
          const drawn = drawControl(control, { kind: 'set', value: position.id });
          const word = drawn.find((s) => s.kind === 'text' && s.lettering === 'word-on');
          if (word?.kind !== 'text') throw new Error(`${control.name} says nothing`);
          const short = SHORT_OF_ROOM.includes(`${name}: ${position.name}`);
          look(position.name, word.size, short ? 12 : 14);
        }
      expect(small).toEqual([]);
    },
  );
});
