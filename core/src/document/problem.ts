/** Something wrong in a document, at a JSON pointer. */
export interface Problem {
  pointer: string;
  message: string;
}

/** Takes a fault down, at the place where it stands. */
export type Report = (pointer: string, message: string) => void;
