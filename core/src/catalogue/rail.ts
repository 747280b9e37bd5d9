/** Highest voltage that any module puts out, either way: where its supply ends. */
export const RAIL = 20;
