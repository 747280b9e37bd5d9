/** A text that is no reading, and why. */
export class ReadingError extends Error {}
