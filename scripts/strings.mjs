#!/usr/bin/env node
// Lists every text somebody may read: of the interface (src/client), and of notices, refusals, mails and pages (the C# code).
//
//   scripts/strings.mjs            file:line: text
//
// Read the list aloud after writing new texts; src/client/src/test/words.test.ts looks through it for words we gave up.
import { readFileSync, readdirSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const ts = createRequire(join(root, 'src/client/package.json'))('typescript');

/** What an attribute holds that nobody reads. */
const unread =
  /^(className|id|key|type|href|to|htmlFor|d|viewBox|name|role|autoComplete|fill|stroke.*|inputMode|rel|target|aria-(live|haspopup|current|controls|labelledby|describedby)|data-.*|side|align|xmlns)$/;

/** Classes of the style sheet, which have spaces as sentences do. */
const isStyle = (text) => text.split(' ').every((word) => /^-?[a-z0-9[\]:&>_./%*#(),'-]+$/.test(word)) && /[a-z0-9]-|:|\[/.test(text);

function filesIn(directory, wanted) {
  return readdirSync(directory, { withFileTypes: true }).flatMap((entry) => {
    const path = join(directory, entry.name);
    if (entry.isDirectory()) return ['node_modules', 'bin', 'obj', 'dist', 'Migrations'].includes(entry.name) ? [] : filesIn(path, wanted);
    return wanted.test(entry.name) ? [path] : [];
  });
}

function textsOfInterface(path) {
  const source = ts.createSourceFile(path, readFileSync(path, 'utf8'), ts.ScriptTarget.Latest, true);
  const found = [];
  const add = (node, text) => {
    const plain = text.replace(/\s+/g, ' ').trim();
    if (/[A-Za-z]{2}/.test(plain)) found.push({ line: source.getLineAndCharacterOfPosition(node.getStart()).line + 1, text: plain });
  };
  const visit = (node) => {
    if (ts.isImportDeclaration(node)) return;
    if (ts.isJsxText(node)) add(node, node.text);
    else if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) {
      const attribute = ts.isJsxAttribute(node.parent) ? node.parent.name.getText() : '';
      if (!unread.test(attribute) && !ts.isLiteralTypeNode(node.parent) && (/\s/.test(node.text) || /^[A-Z][a-z]/.test(node.text)) && !isStyle(node.text))
        add(node, node.text);
    } else if (ts.isTemplateExpression(node)) {
      // A value in the middle reads as an ellipsis.
      const text = node.head.text + node.templateSpans.map((span) => `…${span.literal.text}`).join('');
      if (/[A-Za-z]{2,} |^[A-Z][a-z]/.test(text) && !isStyle(text)) add(node, text);
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

/** The literals of C#, comments left out, values in them read as an ellipsis. */
function textsOfCode(path) {
  const code = readFileSync(path, 'utf8');
  const token = /\/\/[^\n]*|\/\*[\s\S]*?\*\/|'(?:\\.|[^'\\])'|\$*"""[\s\S]*?"""|(?:\$@|@\$|@)"(?:""|[^"])*"|\$"(?:\\.|\{(?:[^{}"]|"(?:\\.|[^"\\])*"|\{[^{}]*\})*\}|[^"\\])*"|"(?:\\.|[^"\\])*"/g;
  const found = [];
  for (const match of code.matchAll(token)) {
    if (/^[/']/.test(match[0])) continue;
    const text = match[0].replace(/\{[^{}]*(?:\{[^{}]*\}[^{}]*)*\}/g, '…').replace(/\s+/g, ' ');
    const isStatement = /"\s*(select|insert|update|delete|create|copy|with|analyze|from|where|and|order|listen|set) /.test(text);
    if (!isStatement && /[A-Za-z]{2,} [\w“]/.test(text)) found.push({ line: code.slice(0, match.index).split('\n').length, text: text.replace(/^[$@]*"+|"+$/g, '').trim() });
  }
  return found;
}

/** Every text: file from the project's root, line from 1, and the text. */
export function gather() {
  const wanted = [
    ...filesIn(join(root, 'src/client/src'), /(?<!\.test|\.d)\.tsx?$/).map((path) => [path, textsOfInterface(path)]),
    ...['Core', 'Data', 'Web', 'StandIns'].flatMap((project) => filesIn(join(root, 'src', project), /\.cs$/)).map((path) => [path, textsOfCode(path)]),
  ];
  return wanted.flatMap(([path, texts]) => texts.map((text) => ({ file: relative(root, path), ...text })));
}

if (process.argv[1] === fileURLToPath(import.meta.url)) for (const { file, line, text } of gather()) console.log(`${file}:${line}: ${text}`);
