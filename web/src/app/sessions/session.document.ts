import { inject } from '@angular/core';
import { mergeSessions, type Session, sessionDifferences, sessionSchema } from '@hurrel/core';
import { type ActionReducer, createFeature } from '@ngrx/store';
import { API } from '../api/client';
import { overHttp } from '../document/over-http';
import type { DocumentKind, DocumentSides, DocumentState } from '../document/document';
import { documentActions } from '../document/document.actions';
import { documentEffects } from '../document/document.effects';
import { documentReducer } from '../document/document.reducer';

/** Sessions need nothing to be shown with. */
export type SessionContext = Record<string, never>;
export type SessionState = DocumentState<Session, SessionContext>;

function sessionKind(api = inject(API)): DocumentKind<Session, SessionContext> {
  const one = api.sessions[':id'];
  return overHttp(
    'session',
    {
      get: (id) => one.$get({ param: { id } }),
      put: (id, match, json) => one.$put({ param: { id }, header: { 'if-match': match }, json }),
      version: (id, number) => one.versions[':number'].$get({ param: { id, number } }),
    },
    (source) => sessionSchema.parse(source),
    () => Promise.resolve({}),
    mergeSessions,
  );
}

export const sessionSides: DocumentSides<Session> = {
  differences: sessionDifferences,
  merge: mergeSessions,
};

export const SessionActions = documentActions<Session, SessionContext>('Session');
const reducer: ActionReducer<SessionState> = documentReducer(SessionActions);
export const sessionFeature = createFeature({ name: 'session', reducer });
export const sessionEffects = documentEffects({
  kind: () => sessionKind(),
  actions: SessionActions,
  select: sessionFeature.selectSessionState,
});
