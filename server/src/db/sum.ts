import { createHash } from 'node:crypto';

/** The checksum of a document as it is stored: SHA-256 of its text, in hexadecimal digits. */
export const sumOfText = (text: string): string => createHash('sha256').update(text).digest('hex');
