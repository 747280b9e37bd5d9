import { graphlib, layout } from '@dagrejs/dagre';
import type { CircuitRoom, RoomModule, RoomPort, RoomWire } from '@hurrel/core';
import { linkHorizontal } from 'd3';

export interface DrawnPort extends RoomPort {
  /** As in a file: `mixer.in1`. */
  port: string;
  side: 'inputs' | 'outputs';
  x: number;
  y: number;
}
export interface DrawnModule extends RoomModule {
  x: number;
  y: number;
  width: number;
  height: number;
  ports: DrawnPort[];
}
export interface DrawnWire {
  wire: RoomWire;
  d: string;
  /** Half way, where a normal shows that a plug breaks it. */
  middle: Point;
}
export interface RoomDrawing {
  width: number;
  height: number;
  modules: DrawnModule[];
  wires: DrawnWire[];
}

const HEAD = 30;
const ROW = 20;
/** Widths of a letter of a name and of a port, and what stands around them. */
const LETTER = 8.4;
const SMALL_LETTER = 7;
const PADDING = 34;
const link = linkHorizontal<unknown, [number, number]>();

/** Places a circuit from left to right, each module with its inputs on the left and its outputs on the right. */
export function drawRoom(room: CircuitRoom): RoomDrawing {
  const graph = new graphlib.Graph({ multigraph: true });
  graph.setGraph({ rankdir: 'LR', nodesep: 16, ranksep: 70, marginx: 12, marginy: 12 });
  graph.setDefaultEdgeLabel(() => ({}));
  for (const m of room.modules) graph.setNode(m.id, sizeOf(m));
  const moduleOf = (port: string): string => port.slice(0, port.indexOf('.'));
  room.wires.forEach((wire, i) => {
    const weight = wire.signal === 'audio' ? 4 : 1;
    graph.setEdge(moduleOf(wire.from), moduleOf(wire.to), { weight }, String(i));
  });
  layout(graph);
  const modules = room.modules.map((m): DrawnModule => {
    const { x, y, width, height } = graph.node(m.id) as Box;
    const [left, top] = [x - width / 2, y - height / 2];
    const ports = (['inputs', 'outputs'] as const).flatMap((side) =>
      m[side].map((port, i): DrawnPort => ({
        ...port,
        port: `${m.id}.${port.name}`,
        side,
        x: side === 'inputs' ? left : left + width,
        y: top + HEAD + ROW * (i + 0.5),
      })),
    );
    return { ...m, x: left, y: top, width, height, ports };
  });
  const places = new Map(
    modules.flatMap((m) => m.ports.map((p) => [`${p.side} ${p.port}`, p] as [string, DrawnPort])),
  );
  const { width = 0, height = 0 } = graph.graph();
  return {
    width,
    height,
    modules,
    wires: room.wires.flatMap((wire): DrawnWire[] => {
      const [from, to] = [places.get(`outputs ${wire.from}`), places.get(`inputs ${wire.to}`)];
      return from && to ? [{ wire, d: between(from, to), middle: halfWay(from, to) }] : [];
    }),
  };
}

/** A line from one place to another, as a cable hangs between them. */
export const between = (from: Point, to: Point): string =>
  link({ source: [from.x, from.y], target: [to.x, to.y] }) ?? '';

const halfWay = (a: Point, b: Point): Point => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });

interface Point {
  x: number;
  y: number;
}
interface Box extends Point {
  width: number;
  height: number;
}

function sizeOf({ name, inputs, outputs }: RoomModule): { width: number; height: number } {
  const longest = (ports: readonly RoomPort[]): number =>
    Math.max(0, ...ports.map((p) => p.name.length)) * SMALL_LETTER;
  return {
    width: Math.max(name.length * LETTER, longest(inputs) + longest(outputs)) + PADDING,
    height: HEAD + ROW * Math.max(1, inputs.length, outputs.length) + 6,
  };
}
