import { effect, inject, untracked } from '@angular/core';
import { WalkLine } from '../walk/walk-line';
import { MadeAhead } from './made-ahead';
import { StageChecks } from './stage-checks';
import { StageDesk } from './stage-desk';
import { StagePlaces } from './stage-places';

/** Breaks whose sounds are made before they are wanted: this one and the next. */
const AHEAD = [0, 1];

/** What is heard at places to listen, and the key that tells most, is there before it is asked for. In an injection context. */
export function makeAhead(): void {
  const [line, stage] = [inject(WalkLine), inject(StageDesk)];
  const [places, checks, made] = [inject(StagePlaces), inject(StageChecks), inject(MadeAhead)];
  effect(() => {
    const breaks = line.walk() ? AHEAD.map((on) => stage.at() + on) : [];
    const coming = breaks.flatMap((at) => [...places.coming(at), ...checks.coming(at)]);
    untracked(() => made.ahead(coming));
  });
}
