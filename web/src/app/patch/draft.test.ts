import { blankPatch, instrumentSchema } from '@hurrel/core';
import document from '../../../../library/instruments/oxbow-sluice.json';
import { dropDraft, findDraft, keepDraft } from './draft';

const patch = blankPatch(instrumentSchema.parse(document), 'kept');

describe('drafts', () => {
  beforeEach(() => localStorage.clear());

  it('are kept for each patch, and dropped', () => {
    keepDraft('a', { version: 3, patch });
    expect(findDraft('a')).toEqual({ version: 3, patch });
    expect(findDraft('b')).toBeUndefined();
    dropDraft('a');
    expect(findDraft('a')).toBeUndefined();
  });

  it('that cannot be read are forgotten', () => {
    localStorage.setItem('hurrel.draft.a', '{"version":1,"patch":{"name":3}}');
    expect(findDraft('a')).toBeUndefined();
    expect(localStorage.getItem('hurrel.draft.a')).toBeNull();
  });
});
