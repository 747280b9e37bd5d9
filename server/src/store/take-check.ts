import { checkSamples, WavError, type WavFacts, wavFacts } from '@hurrel/core';
import { invalid } from '../problem';

/** Looks through a WAV file as it comes. Throws a problem with the reason as soon as it turns out to be none. */
export class TakeCheck {
  private facts: WavFacts | null = null;
  private size = 0;

  piece(bytes: Uint8Array): void {
    refusing(() => {
      // The header stands in the first piece.
      this.facts ??= wavFacts(bytes, Infinity);
      checkSamples(this.facts, bytes, this.size);
    });
    this.size += bytes.length;
  }

  end(): { seconds: number; size: number } {
    const { size } = this;
    return refusing(() => {
      if (!this.facts) throw new WavError('This is no WAV file: it is empty.');
      const { at, size: said } = this.facts.data;
      if (at + said > size) {
        throw new WavError(
          `The file ends early: the data chunk at byte ${at - 8} speaks of ${said} bytes, ${size - at} are there.`,
        );
      }
      return { seconds: this.facts.seconds, size };
    });
  }
}

function refusing<T>(look: () => T): T {
  try {
    return look();
  } catch (error) {
    if (error instanceof WavError) throw invalid([{ pointer: '', message: error.message }]);
    throw error;
  }
}
