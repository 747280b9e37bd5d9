import { controlBox } from '../panel/place';
import { instrumentOf } from './instrument';
import { overlap } from './layout';
import { readOutline } from './read';

const read = (text: string) => readOutline(text).outline;

describe('What is pasted whole', () => {
  it('finds its places in a section that a hand has arranged, none on another', () => {
    const few = 'P\nF:\ncutoff 0..10\nG:\nfine';
    const first = instrumentOf(read(few), few);
    const arranged = { ...first, panel: { ...first.panel, arranged: true as const } };
    const many = `P\nF:\n${Array.from({ length: 40 }, (_, i) => `c${i} ${['0..10', 'a/b/c', '0..5 slider'][i % 3]}`).join('\n')}\ncutoff 0..10\nG:\nfine`;
    const made = instrumentOf(read(many), many, arranged);
    expect(made.panel.arranged).toBe(true);
    const section = made.sections.find((s) => s.name === 'F')!;
    const boxes = made.controls.filter((c) => c.section === section.id).map((c) => controlBox(c));
    expect(boxes).toHaveLength(41);
    expect(boxes.some((a, i) => boxes.slice(i + 1).some((b) => overlap(a, b)))).toBe(false);
    const inside = boxes.every(
      (b) =>
        b.x + b.width <= section.x + section.width && b.y + b.height <= section.y + section.height,
    );
    expect(inside).toBe(true);
    const stayed = made.controls.find((c) => c.name === 'cutoff')!.place;
    expect(stayed).toEqual(arranged.controls.find((c) => c.name === 'cutoff')!.place);
  });

  it.each([
    'slider '.repeat(8000),
    '0..10 by 5 '.repeat(3000),
    'x, 0 is a'.repeat(6000),
    '0;'.repeat(30000),
  ])('is told in one line that it is too long: %#', (line) => {
    const { faults, outline } = readOutline(`F:\n${line}\ncutoff 0..10`);
    expect(faults.map((f) => f.message)).toEqual(['A line has 2000 letters at most.']);
    expect(outline.sections[0]!.controls).toHaveLength(1);
  });
});
