import type { Setting } from '../reading/setting';
import estuaryFile from '../../../library/instruments/marram-estuary.json' with { type: 'json' };
import { instrumentSchema, isSwitched } from '../instrument';
import { controlOf, sluice } from '../testing/sluice';
import { controlCodes } from './codes';
import { drawControl, faceReading } from './draw-control';
import { drawJack } from './draw-jack';
import { drawMovement } from './draw-movement';
import { controlBox, turns, valueAt } from './place';
import { panelSvg } from './svg';

const estuary = instrumentSchema.parse(estuaryFile);

const kinds: Record<string, Setting | undefined> = {
  set: { kind: 'set', value: 0.37 },
  range: { kind: 'range', from: 0.35, to: 0.4, best: 0.37 },
  ear: { kind: 'ear', near: 0.37, target: 'until the floor shakes' },
  any: { kind: 'any' },
  none: undefined,
};
const pens = (id: string, setting: Setting | undefined): string =>
  drawControl(controlOf(id), setting)
    .flatMap((s) => (s.kind === 'path' ? s.pen : []))
    .filter((pen) => pen !== 'tick')
    .join(' ');

describe('the drawing of a control', () => {
  it.each(['cutoff', 'mix-osc1', 'osc2-fine', 'wheel', 'pedal'])(
    'tells the kinds of setting of %s apart by shape',
    (id) => {
      const drawn = Object.values(kinds).map((setting) => pens(id, setting));
      expect(new Set(drawn).size).toBe(5);
    },
  );

  it('tells them apart on switches', () => {
    const drawn = [
      pens('osc1-shape', { kind: 'set', value: 'saw' }),
      pens('osc1-shape', { kind: 'ear', near: 'saw', target: 'x' }),
      pens('osc1-shape', { kind: 'any' }),
      pens('osc1-shape', undefined),
    ];
    expect(new Set(drawn).size).toBe(4);
  });

  it('writes the reading on its face', () => {
    expect(faceReading(controlOf('cutoff'), kinds['range'])).toBe('3.7');
    expect(faceReading(controlOf('osc2-interval'), { kind: 'set', value: 5 / 24 })).toBe('-7');
    expect(faceReading(controlOf('osc2-fine'), { kind: 'set', value: 0.75 })).toBe('2:30');
    expect(faceReading(controlOf('cutoff'), undefined)).toBe('–');
  });

  it('leaves the unit out where a small dial has no room for it', () => {
    const attack = estuary.controls.find((c) => c.id === 'env1-attack')!;
    const letters = drawControl(attack, { kind: 'set', value: 0.7 }).flatMap((s) =>
      s.kind === 'text' ? [s.text] : [],
    );
    expect(letters).toEqual(['0.631', 'attack']);
  });

  it('puts the mark where the hand would see it', () => {
    const mark = (value: number): number[] => {
      const shape = drawControl(controlOf('cutoff'), { kind: 'set', value }).find(
        (s) => s.kind === 'path' && s.pen === 'mark',
      );
      return shape?.kind === 'path' ? shape.d.match(/-?[\d.]+/g)!.map(Number) : [];
    };
    const { x, y } = controlOf('cutoff').place;
    const [nx, ny] = mark(0.5);
    expect(nx).toBeCloseTo(x, 6);
    expect(ny).toBeLessThan(y);
    // Half past two is right of noon and above the middle; nine o'clock is straight to the left.
    const [rx, ry] = mark(0.75);
    expect(rx).toBeGreaterThan(x);
    expect(ry).toBeLessThan(y);
    const [lx, ly] = mark(0.2);
    expect(lx).toBeLessThan(x);
    expect(ly).toBeCloseTo(y, 6);
  });

  it('keeps the mark off the reading, lest it looks like one of its signs', () => {
    const dials = [...sluice.controls, ...estuary.controls].filter(
      (c) => !isSwitched(c) && turns(c) && c.place.size < 50,
    );
    let beside = 0;
    for (const dial of dials)
      for (let value = 0; value <= 1; value += 1 / 64) {
        const shapes = drawControl(dial, { kind: 'set', value });
        const said = shapes.find((s) => s.kind === 'text' && s.lettering === 'reading');
        const mark = shapes.find((s) => s.kind === 'path' && s.pen === 'mark');
        if (said?.kind !== 'text' || mark?.kind !== 'path') throw new Error(dial.id);
        const [px, py] = mark.d.match(/-?[\d.]+/g)!.map(Number);
        const half = 0.3 * said.size * said.text.length;
        const across = Math.abs(py! - dial.place.y) < 0.4 * said.size;
        if (across && half > dial.place.size / 2 - 4) beside++;
        expect(across && Math.abs(px! - dial.place.x) < half).toBe(false);
      }
    expect(beside).toBeGreaterThan(20);
  });

  it('shows a movement’s way only when there is one', () => {
    expect(
      drawMovement(controlOf('cutoff'), 0.2, 0.8).map((s) => s.kind === 'path' && s.pen),
    ).toEqual(['ghost', 'way', 'way']);
    expect(drawMovement(controlOf('osc1-shape'), 'saw', 'sine')).toHaveLength(1);
    expect(drawMovement(controlOf('mix-osc1'), 0, 1)).toHaveLength(2);
  });
});

describe.each([sluice, estuary])('the face of $name', (sluice) => {
  const overlap = (
    a: ReturnType<typeof controlBox>,
    b: ReturnType<typeof controlBox>,
    slack: number,
  ): boolean =>
    a.x + slack < b.x + b.width &&
    b.x + slack < a.x + a.width &&
    a.y + slack < b.y + b.height &&
    b.y + slack < a.y + a.height;

  it('keeps every control inside its section, and sections inside the panel', () => {
    for (const control of sluice.controls) {
      const section = sluice.sections.find((s) => s.id === control.section)!;
      const box = controlBox(control);
      const inside =
        box.x >= section.x - 2 &&
        box.y >= section.y &&
        box.x + box.width <= section.x + section.width + 2 &&
        box.y + box.height <= section.y + section.height + 2;
      expect([control.id, inside]).toEqual([control.id, true]);
    }
    for (const s of sluice.sections) {
      expect(s.x + s.width <= sluice.panel.width && s.y + s.height <= sluice.panel.height).toBe(
        true,
      );
    }
  });

  it('lets no control lie on another', () => {
    const hits: string[] = [];
    sluice.controls.forEach((a, i) =>
      sluice.controls.slice(i + 1).forEach((b) => {
        if (overlap(controlBox(a), controlBox(b), 11)) hits.push(`${a.id} ${b.id}`);
      }),
    );
    expect(hits).toEqual([]);
  });

  it('gives every control two keys of its own, or three', () => {
    const codes = controlCodes(sluice);
    expect(new Set(codes.values()).size).toBe(sluice.controls.length);
    const all = [...codes.values()];
    // No code begins another one: the last key decides at once.
    for (const a of all) expect(all.filter((b) => b !== a && b.startsWith(a))).toEqual([]);
    expect(codes.get('level')).toBe('1a');
  });
});

describe('a panel as a picture', () => {
  it('holds every control, jack and cable once, and lets no text out of its place', () => {
    const name = 'A <b>&"\u0001 loud';
    const drawn = panelSvg(
      { ...sluice, name },
      { name, settings: { cutoff: { kind: 'set', value: 1 } }, cables: [] },
    );
    expect(drawn).toContain(
      '<title>Oxbow A &lt;b&gt;&amp;&quot; loud: A &lt;b&gt;&amp;&quot; loud</title>',
    );
    expect(drawn.match(/<text/g)).toHaveLength(
      sluice.sections.length +
        [
          ...sluice.controls.flatMap((c) =>
            drawControl(c, c.id === 'cutoff' ? { kind: 'set', value: 1 } : undefined),
          ),
          ...sluice.jacks.flatMap(drawJack),
        ].filter((s) => s.kind === 'text').length,
    );
    expect(drawn).not.toMatch(/NaN|undefined|Infinity/);
    expect(drawn).toContain('>10</text>');
  });
});

describe('a pointer', () => {
  it('picks the cell under it, and the share of a straight travel', () => {
    for (const control of sluice.controls.filter(isSwitched)) {
      const picked = control.positions.map((_, i, all) => {
        const lying = control.kind === 'toggle' && control.place.size >= 64;
        const { x, y, size } = control.place;
        return lying
          ? valueAt(control, x - size / 2 + ((i + 0.5) * size) / all.length, y)
          : valueAt(control, x, y + (i - all.length / 2 + 0.5) * 18);
      });
      expect(picked).toEqual(control.positions.map((p) => p.id));
    }
    const slider = controlOf('mix-osc1');
    const { x, y, size } = slider.place;
    expect(valueAt(slider, x, y)).toBe(0.5);
    expect(valueAt(slider, x, y - size)).toBe(1);
    expect(valueAt(controlOf('osc1-shape'), 0, 0)).toBeUndefined();
  });
});
