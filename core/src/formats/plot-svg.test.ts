import { plotSvg } from './plot-svg';

const plot = (points: [number, number][], title = 'Spectrum'): string =>
  plotSvg({
    title,
    note: 'made from <a test> & "more"',
    x: { label: 'Hz', from: 20, to: 20000, log: true, ticks: [20, 200, 2000, 20000] },
    y: { label: 'dB', from: -90, to: 0, ticks: [-90, 0] },
    points,
  });

it('puts points where the axes say, and holds them inside', () => {
  const line = /<path d="M([^"]+)" fill="none" stroke="#14507f"/.exec(
    plot([
      [20, 0],
      [632.455532, -45],
      [20000, -200],
      [30000, 0],
    ]),
  )![1]!;
  expect(line.split('L')).toEqual(['72.00 56.00', '504.00 240.00', '936.00 424.00']);
});

it('is well-formed, whatever the words', () => {
  const text = plot([], 'a < b & "c"');
  expect(text).toContain('a &lt; b &amp; &quot;c&quot;');
  expect(text).not.toMatch(/<a test>/);
  expect(text.match(/<text/g)).toHaveLength(text.match(/<\/text>/g)!.length);
});
