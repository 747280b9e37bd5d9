import {
  checkInstrument,
  controlBox,
  panelOf,
  type Instrument,
  instrumentSchema,
  jackBox,
} from '@hurrel/core';
import { demoInstruments } from './library';

interface Box {
  id: string;
  section: string;
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Everything that is read or reached for on a panel. */
const boxes = (face: Instrument): Box[] => [
  ...face.controls.map((c) => ({ id: c.id, section: c.section, ...controlBox(c) })),
  ...face.jacks.map((j) => ({ id: j.id, section: j.section, ...jackBox(j) })),
];

/** Boxes leave room around what they hold: by so much they may share it. */
const SLACK = 11;
const overlap = (a: Box, b: Box): boolean =>
  a.x + SLACK < b.x + b.width &&
  b.x + SLACK < a.x + a.width &&
  a.y + SLACK < b.y + b.height &&
  b.y + SLACK < a.y + a.height;

const instruments = demoInstruments.map((d) => instrumentSchema.parse(d));

it('there are ten, by three makers', () => {
  expect(instruments).toHaveLength(10);
  expect(new Set(instruments.map((i) => i.maker)).size).toBe(3);
});

describe.each(instruments.map((i) => [`${i.maker} ${i.name}`, i] as const))(
  '%s',
  (_, definition) => {
    const face = panelOf(definition);

    it('is sound', () => {
      expect(checkInstrument(definition)).toEqual([]);
    });

    it('has everything inside its sections, and the sections on the panel', () => {
      const outside = boxes(face).filter((box) => {
        const s = face.sections.find((one) => one.id === box.section)!;
        return (
          box.x < s.x - 8 ||
          box.y < s.y ||
          box.x + box.width > s.x + s.width + 8 ||
          box.y + box.height > s.y + s.height + 8
        );
      });
      expect(outside.map((box) => box.id)).toEqual([]);
      const off = face.sections.filter(
        (s) => s.x + s.width > face.panel.width || s.y + s.height > face.panel.height,
      );
      expect(off.map((s) => s.id)).toEqual([]);
    });

    it('has nothing on top of anything else', () => {
      const all = boxes(face);
      const hits = all.flatMap((a, i) =>
        all.slice(i + 1).flatMap((b) => (overlap(a, b) ? [`${a.id} on ${b.id}`] : [])),
      );
      expect(hits).toEqual([]);
    });
  },
);
