import { effects } from './effects';
import { filters } from './filters';
import { keys } from './keys';
import { modulators } from './modulators';
import { oscillators } from './oscillators';
import type { ModuleSpec } from './spec';
import { shaping } from './shaping';
import { rows, tone } from './tone';
import { tools } from './tools';

export * from './spec';

/** The families of the catalogue, in the order of a signal's way. */
export const families = {
  keys,
  oscillators,
  filters,
  modulators,
  tone,
  shaping,
  rows,
  tools,
  effects,
} as const;

/** What ports and parameters each kind of module has. */
export const catalogue = {
  ...keys,
  ...oscillators,
  ...filters,
  ...modulators,
  ...tone,
  ...shaping,
  ...rows,
  ...tools,
  ...effects,
} as const;

export type ModuleKind = keyof typeof catalogue;
export const isModuleKind = (kind: string): kind is ModuleKind => Object.hasOwn(catalogue, kind);
export const moduleSpec = (kind: ModuleKind): ModuleSpec => catalogue[kind];
export * from './rail';
