import { moduleSpec } from '../catalogue';
import type { GraphNode } from './graph';

/** Slope of a low-pass in dB an octave, and what its resonance leaves of the damping, 1 to below 0; undefined for what is none. */
export function lowPassOf(node: GraphNode): { slope: number; left: number } | undefined {
  const { lowPass } = moduleSpec(node.kind);
  return lowPass && { slope: lowPass.slope, left: lowPass.left(Number(node.params.resonance)) };
}

/** The filter oscillates by itself. */
export const whistles = (node: GraphNode): boolean => (lowPassOf(node)?.left ?? 1) <= 0;
