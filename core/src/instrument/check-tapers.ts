import type { NumberParam } from '../catalogue';
import type { Report } from '../document/problem';
import type { Scale, Taper } from './schema';

/** The marks of a scale follow one another, and their numbers run one way. */
export function checkScale(scale: Scale, pointer: string, report: Report): void {
  const { marks } = scale;
  const rises = (f: (i: number) => number): boolean =>
    marks.every((_, i) => i === 0 || f(i) > f(i - 1));
  if (!rises((i) => marks[i]!.at)) report(`${pointer}/marks`, 'Marks must follow one another.');
  if (!rises((i) => marks[i]!.value) && !rises((i) => -marks[i]!.value)) {
    report(`${pointer}/marks`, 'The numbers must rise all the way, or fall all the way.');
  }
}

/** A taper runs one way along the travel; a table may stand still for a while, and moves somewhere. */
export function checkTaper(taper: Taper, pointer: string, report: Report): void {
  if (taper.kind !== 'table') {
    if (taper.lo === taper.hi) report(pointer, 'Both ends of the taper are the same.');
    return;
  }
  const { points } = taper;
  if (!points.every((p, i) => i === 0 || p[0] > points[i - 1]![0])) {
    report(`${pointer}/points`, 'Points must follow one another along the travel.');
  }
  const steps = points.slice(1).map((p, i) => Math.sign(p[1] - points[i]![1]));
  const ways = new Set(steps.filter((s) => s !== 0));
  if (ways.size !== 1) {
    report(`${pointer}/points`, 'The values must only rise, or only fall, and move somewhere.');
  }
}

/** A taper speaks of the parameter that it sets: in its unit, and within its range. */
export function checkTaperFits(
  taper: Taper,
  param: NumberParam,
  name: string,
  pointer: string,
  report: Report,
): void {
  if (taper.unit !== param.unit) {
    const wanted = param.unit ? `in ${param.unit}` : 'a number without a unit';
    report(`${pointer}/unit`, `${name} is ${wanted}, not in ${taper.unit || 'no unit'}.`);
    return;
  }
  const ends: [string, number][] =
    taper.kind === 'table'
      ? taper.points.map(([, value], i) => [`/points/${i}`, value])
      : [
          ['/lo', taper.lo],
          ['/hi', taper.hi],
        ];
  for (const [at, value] of ends) {
    if (value >= param.lo && value <= param.hi) continue;
    const range = `${param.lo} to ${param.hi} ${param.unit}`.trim();
    report(`${pointer}${at}`, `${name} runs from ${range}: ${value} is beyond it.`);
  }
}
