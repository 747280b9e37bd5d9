/** Something wrong in a document, at a JSON pointer. */
export interface Problem {
  pointer: string;
  message: string;
}
