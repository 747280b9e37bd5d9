/** An answer of the server, as the client reads it. */
export const answerOf = (body: unknown, status = 200) => ({
  ok: status < 400,
  status,
  json: () => Promise.resolve(body),
});

/** One that says what was wrong. */
export const problemOf = (detail: string, status = 503) =>
  answerOf({ type: 'x', title: 'No', status, detail }, status);

export type Answer = ReturnType<typeof answerOf>;
