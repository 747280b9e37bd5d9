import type { ModuleSpec } from '../catalogue';

/** Whether a kind of module has a parameter, and takes a value for it. */
export function paramFits(spec: ModuleSpec, name: string, value: number | string): boolean {
  const param = Object.hasOwn(spec.params, name) ? spec.params[name] : undefined;
  if (param?.kind === 'choice') return param.choices.includes(String(value));
  return param !== undefined && typeof value === 'number' && value >= param.lo && value <= param.hi;
}
