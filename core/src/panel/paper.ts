import type { Lettering, Pen } from './shape';

/** How shapes are painted on paper: legible in black and white, so kinds differ by width, dash and fill. */
export interface PaperPen {
  stroke?: string;
  width?: number;
  dash?: [number, number];
  fill?: string;
}

export const paperPens: Record<Pen, PaperPen> = {
  scale: { stroke: '#000', width: 1 },
  'scale-any': { stroke: '#000', width: 1, dash: [1, 3] },
  'scale-empty': { stroke: '#aaa', width: 0.8 },
  tick: { stroke: '#000', width: 0.7 },
  mark: { stroke: '#000', width: 4.2 },
  band: { stroke: '#999', width: 7 },
  'band-end': { stroke: '#000', width: 1.2 },
  guess: { stroke: '#000', width: 1.8 },
  ear: { stroke: '#000', width: 1.6, fill: '#fff' },
  cell: { stroke: '#777', width: 0.7 },
  'cell-on': { stroke: '#000', width: 0.7, fill: '#000' },
  'cell-any': { stroke: '#777', width: 0.7, dash: [1, 3] },
  'cell-empty': { stroke: '#bbb', width: 0.6 },
  lamp: { stroke: '#777', width: 0.8 },
  'lamp-on': { stroke: '#fff', width: 1, fill: '#fff' },
  body: { stroke: '#999', width: 0.7 },
  jack: { stroke: '#000', width: 1, fill: '#fff' },
  'jack-out': { stroke: '#777', width: 0.7 },
  'mark-audio': { stroke: '#000', width: 1 },
  'mark-pitch': { stroke: '#000', width: 1 },
  'mark-modulation': { stroke: '#000', width: 1 },
  'mark-gate': { stroke: '#000', width: 1 },
  'mark-s-trigger': { stroke: '#000', width: 1 },
  'mark-clock': { stroke: '#000', width: 1 },
  ghost: { stroke: '#777', width: 2 },
  way: { stroke: '#777', width: 1, dash: [2, 2] },
};

export const paperFonts: Record<Lettering, { font: string; color: string }> = {
  reading: { font: 'mono-bold', color: '#000' },
  'reading-faint': { font: 'mono', color: '#555' },
  name: { font: 'text', color: '#000' },
  target: { font: 'italic', color: '#000' },
  word: { font: 'text', color: '#333' },
  'word-on': { font: 'bold', color: '#fff' },
  'word-faint': { font: 'text', color: '#777' },
};
