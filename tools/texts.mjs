// Prints every text that a person can meet, with its place and how hard it is to read: `npm run texts`, or with words to look
// for: `npm run texts -- "puts back"`. Templates, messages in code, findings, refusals, what the command line says.
import { readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { pathToFileURL } from 'node:url';
import { parseTemplate } from '@angular/compiler';
import { fleschKincaid } from 'flesch-kincaid';
import { syllable } from 'syllable';
import { globSync } from 'tinyglobby';
import ts from 'typescript';
import { root } from './lib.mjs';

/** Attributes that are read, or read out. */
const READ = new Set(['title', 'aria-label', 'placeholder', 'alt', 'label', 'caption']);
const SOURCES = ['web/src/app/**/*.ts', 'server/src/**/*.ts', 'core/src/**/*.ts'];
const NOT_READ = /\.test\.ts$|\/testing\//;

/** Words of a person, not a name, a path or a query. */
const isSaid = (text) =>
  /[a-z]{2}/.test(text) &&
  /\s/.test(text) &&
  !/^[\w-]+(\s[\w-]+)*[:;{]|^(SELECT|INSERT|UPDATE|CREATE|DROP|ALTER|DELETE)\b/.test(text);

/** Texts of one template, each with its line. */
function inTemplate(html, line) {
  const found = [];
  const add = (text, span) => {
    const plain = text.replace(/\s+/g, ' ').trim();
    if (/[a-z]{2}/i.test(plain)) found.push({ text: plain, line: line + span.start.line + 1 });
  };
  const visit = (node) => {
    if (node.value && typeof node.value === 'string') add(node.value, node.sourceSpan);
    // What stands between pieces that are put in.
    if (node.value?.ast?.strings) add(node.value.ast.strings.join(' … '), node.sourceSpan);
    for (const one of [...(node.attributes ?? [])])
      if (READ.has(one.name) && one.value) add(one.value, one.sourceSpan);
    const inside = ['children', 'branches', 'cases', 'groups', 'empty', 'placeholder', 'loading'];
    for (const key of inside) for (const child of [node[key] ?? []].flat()) if (child) visit(child);
  };
  for (const node of parseTemplate(html, 'template.html').nodes) visit(node);
  return found;
}

/** Texts of one file of code, each with its line. */
function inCode(path) {
  const source = ts.createSourceFile(
    path,
    readFileSync(path, 'utf8'),
    ts.ScriptTarget.Latest,
    true,
  );
  const found = [];
  const lineOf = (node) => source.getLineAndCharacterOfPosition(node.getStart()).line;
  const visit = (node) => {
    if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node)) return;
    if (
      ts.isPropertyAssignment(node) &&
      /^(template|styles|selector|description)$/.test(node.name.getText())
    ) {
      if (
        node.name.getText() === 'template' &&
        ts.isNoSubstitutionTemplateLiteral(node.initializer)
      )
        found.push(...inTemplate(node.initializer.text, lineOf(node.initializer)));
      return;
    }
    const text = ts.isStringLiteralLike(node)
      ? node.text
      : ts.isTemplateExpression(node)
        ? [node.head.text, ...node.templateSpans.map((s) => s.literal.text)].join('…')
        : '';
    if (isSaid(text))
      found.push({ text: text.replace(/\s+/g, ' ').trim(), line: lineOf(node) + 1 });
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

/** The school year in which a text is understood (Flesch and Kincaid, 1975). */
function grade(text) {
  const words = text.split(/\s+/).filter((w) => /[a-z]/i.test(w));
  const sentence = Math.max(1, text.split(/[.!?:;](?:\s|$)/).filter((s) => /\w/.test(s)).length);
  const syllables = words.reduce((sum, word) => sum + syllable(word), 0);
  return fleschKincaid({ sentence, word: words.length, syllable: syllables });
}

/** Every text, by its place. */
export function texts() {
  const files = SOURCES.flatMap((p) => globSync(p, { cwd: root })).filter((p) => !NOT_READ.test(p));
  const pages = globSync('web/src/app/**/*.html', { cwd: root });
  return [
    ...pages.flatMap((p) =>
      inTemplate(readFileSync(join(root, p), 'utf8'), 0).map((t) => ({ ...t, path: p })),
    ),
    ...files.flatMap((p) => inCode(join(root, p)).map((t) => ({ ...t, path: p }))),
  ]
    .map((t) => ({
      ...t,
      words: t.text.split(/\s+/).length,
      grade: Math.round(10 * grade(t.text)) / 10,
    }))
    .sort((a, b) => a.path.localeCompare(b.path) || a.line - b.line);
}

if (import.meta.url === pathToFileURL(process.argv[1]).href) {
  const sought = process.argv.slice(2).join(' ').toLowerCase();
  const all = texts().filter((t) => t.text.toLowerCase().includes(sought));
  for (const { path, line, grade: year, text } of all)
    console.log(`${relative('.', path)}:${line}\t${year}\t${text}`);
  const hard = all.filter((t) => t.grade > 8 && t.words > 3).length;
  const long = all.filter((t) => t.words > 12).length;
  console.error(`${all.length} texts, ${long} of more than 12 words, ${hard} above grade 8`);
}
