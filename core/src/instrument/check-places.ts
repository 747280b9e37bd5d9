import type { Report } from '../document/problem';
import type { Instrument } from './schema';

/** Sections lie on the panel, controls and jacks within their section. */
export function checkPlaces(instrument: Instrument, report: Report): void {
  const { panel, sections } = instrument;
  sections.forEach((s, i) => {
    if (s.x + s.width > panel.width || s.y + s.height > panel.height) {
      report(
        `/sections/${i}`,
        `${s.name} reaches beyond the panel, ${panel.width} by ${panel.height}.`,
      );
    }
  });
  const home = new Map(sections.map((s) => [s.id, s]));
  for (const list of ['controls', 'jacks'] as const) {
    instrument[list].forEach(({ name, section, place: { x, y } }, i) => {
      const s = home.get(section);
      if (!s) return;
      if (x >= s.x && x <= s.x + s.width && y >= s.y && y <= s.y + s.height) return;
      const extent = `x ${s.x} to ${s.x + s.width}, y ${s.y} to ${s.y + s.height}`;
      report(
        `/${list}/${i}/place`,
        `${name} stands outside its section ${s.name}, which takes ${extent}.`,
      );
    });
  }
}
