import { Problem } from '../problem';

/** A version that is on the disk otherwise than it was written, or can't be read any more. */
export class Damaged extends Problem {
  constructor(
    private readonly kind: string,
    private readonly number: number,
    cause?: unknown,
  ) {
    super(422, 'Damaged', `Version ${number} of this ${kind} is damaged on the disk.`);
    this.cause = cause;
  }

  /** The same with what can be done about it. @param whole the newest version that is as it was written */
  problem(head: number, whole: number | null): Problem {
    const { kind, number } = this;
    const says =
      whole === null
        ? 'No older version is intact: import the document from a backup, in Files.'
        : `Version ${whole} is intact: restore it.`;
    const damage = { kind, number, head, whole };
    return new Problem(422, this.title, `${this.detail} ${says}`, [], { damage });
  }
}
