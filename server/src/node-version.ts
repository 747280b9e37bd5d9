/** What SQLite's binary asks for; an older Node would break off without a word. */
const NEEDED = 22;

/** Why this Node cannot run the server, and what to do; null where it can. */
export function oldNode(version: string = process.versions.node): string | null {
  if (parseInt(version, 10) >= NEEDED) return null;
  return `this is Node ${version}, and ${NEEDED} or newer is needed. Start Hurrel with npm start or npm run serve, which fetch a newer one on Linux, or install one.`;
}
