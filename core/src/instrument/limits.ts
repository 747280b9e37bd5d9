/** How much an instrument holds: its file, its words, and what is edited on the screen keep to the same. */
export const MOST_SECTIONS = 160;
export const MOST_CONTROLS = 600;
export const MOST_JACKS = 300;
export const MOST_MODULES = 200;
export const MOST_WIRES = 2000;
export const MOST_REVISIONS = 16;
export const MOST_SEQUENCERS = 16;
export const MOST_SOURCES = 64;
export const MOST_DESTINATIONS = 128;
/** Units that a sheet has each way at most. */
export const LARGEST_SHEET = 4000;

/** Of a cabinet: kinds of module, what is on one, rows, and modules that stand in them. */
export const MOST_TYPES = 64;
export const MOST_ON_A_MODULE = 64;
export const MOST_CABINET_ROWS = 16;
export const MOST_PLACED = 128;
