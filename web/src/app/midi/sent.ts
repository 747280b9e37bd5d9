/** By controller number, the value that was sent last, and when in ms. */
export type Sent = ReadonlyMap<number, { sent: number; at: number }>;
