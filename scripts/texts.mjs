/**
 * Every text that a person reads, by file: `npm run texts [folder …]`. Labels, buttons, messages and empty states of the pages; issue
 * sentences, errors, notifications and reports; terminal output. Read from the source; what is filled in at run time is an ellipsis.
 * `--check` ends with an error where a text has a word that the vocabulary does not have, a sentence is too long, or a label names two
 * things.
 */
import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { join, relative } from 'node:path';
import { pathToFileURL } from 'node:url';
import { parseSync } from '@swc/core';

const root = new URL('..', import.meta.url).pathname;
/** Words that imports and suggestions recognise in many languages, and what the simulated channels sell. */
const notTexts = /headingLexicon|headingPhrases|core\/(?:locale|words)\/|simulators\/\w+(?:Bazaar|Boards)/;
/** Where texts are written. */
export const textFolders = [
  'src/ui',
  'src/app',
  'src/actions',
  'src/server',
  'src/core',
  'src/cli',
  'src/worker',
  'src/simulators',
];
/** Attributes of components that no person reads. */
const notRead =
  /^(?:className|href|id|key|type|role|style|value|variant|size|color|data-.*|on[A-Z].*|target|rel|method|action|accept|inputMode|autoComplete|lang|dir|as|component|position|withinPortal|shortcut|c|fw|ff|fz|tt|w|h|p|m|mt|mb|ml|mr|gap|justify|align|wrap|width|height|viewBox|d|fill|stroke|kind|tone|scope|radius|p[xy]|m[xy]|aria-(?:current|live|hidden|controls|labelledby|describedby|haspopup|sort|relevant|invalid|activedescendant|autocomplete))$/;
/** Functions whose texts are for programs. */
const forPrograms =
  /^(?:fetch|require|querySelector(?:All)?|getElementById|addEventListener|removeEventListener|createElement|closest|matches|procedure|memoFor|startsWith|endsWith|includes|indexOf|split|replace|replaceAll|localeCompare|sql|raw|execute|query|get|set|has|append|setRequestHeader|digest|update|createHash|log\w*|warn|debug|index|varchar|unique|references|primaryKey|join|normalize|RegExp|test|match|exec|literal|discriminatedUnion|describe|pick|omit|Memo|WeakMemo|Symbol|defineProperty)$/;

const filesIn = (folder) =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return entry.name === 'migrations' ? [] : filesIn(path);
    return /\.tsx?$/.test(entry.name) && !/\.test\.tsx?$/.test(entry.name) ? [path] : [];
  });

/** Whether a literal is a text rather than a code: it has words with blanks between them, or is one capitalised word. */
const isText = (text, inPage) =>
  /(?:\p{L}|…).*\s.*[\p{L}…]/u.test(text)
    ? !/^(?:--?[a-z]|[.#@/])/.test(text)
    : inPage && /^\p{Lu}\p{Ll}{2,}[.…:?]?$/u.test(text);

/** The texts of a source file, each with the line it is on. @returns a list of `{ line, text, label }` */
export function textsIn(code, path) {
  const ast = parseSync(code, { syntax: 'typescript', tsx: path.endsWith('.tsx'), target: 'es2022' });
  // The parser counts bytes over all files that it parsed; its own beginning of this one is the first token.
  const bytes = Buffer.from(code);
  const before = /^(?:\s|\/\*[\s\S]*?\*\/|\/\/[^\n]*\n)*/.exec(code)?.[0] ?? '';
  const first = ast.span.start - Buffer.byteLength(before);
  const lineOf = (at) => bytes.subarray(0, at - first).filter((byte) => byte === 10).length + 1;
  const found = [];
  const add = (text, at, inPage, label = false) => {
    const clean = text.replace(/\s+/g, ' ').trim();
    if (clean !== '' && (label ? /\p{L}{2}/u.test(clean) : isText(clean, inPage)))
      found.push({ line: lineOf(at), text: clean, label });
  };
  const nameOf = (callee) =>
    callee?.type === 'Identifier'
      ? callee.value
      : callee?.type === 'MemberExpression'
        ? callee.property.value
        : undefined;
  const walk = (node, inPage) => {
    if (Array.isArray(node)) {
      for (const one of node) walk(one, inPage);
      return;
    }
    if (!node || typeof node !== 'object') return;
    switch (node.type) {
      case 'ImportDeclaration':
      case 'ExportAllDeclaration':
      case 'TsTypeAliasDeclaration':
      case 'TsInterfaceDeclaration':
      case 'TsTypeAnnotation':
      case 'RegExpLiteral':
        return;
      case 'ExportNamedDeclaration':
        if (node.source) return;
        break;
      case 'JSXText':
        add(node.value, node.span.start, true, true);
        return;
      case 'JSXAttribute': {
        const name = node.name.value ?? `${node.name.namespace?.value}-${node.name.name?.value}`;
        if (notRead.test(name)) {
          // What it does may still say something: a handler's messages.
          if (node.value?.type === 'JSXExpressionContainer' && /^on/.test(name))
            walk(node.value.expression, false);
          return;
        }
        if (node.value?.type === 'StringLiteral') add(node.value.value, node.value.span.start, true, true);
        else walk(node.value, true);
        return;
      }
      case 'JSXExpressionContainer':
        walk(node.expression, true);
        return;
      case 'JSXOpeningElement':
        walk(node.attributes, true);
        return;
      case 'CallExpression':
      case 'NewExpression':
        // A word with its count is a text, however short.
        if (/^(?:counted|plural)$/.test(nameOf(node.callee) ?? ''))
          for (const { expression } of node.arguments)
            if (expression.type === 'StringLiteral') add(expression.value, expression.span.start, true, true);
        if (forPrograms.test(nameOf(node.callee) ?? '')) {
          walk(node.callee, inPage);
          for (const { expression } of node.arguments ?? [])
            if (expression.type !== 'StringLiteral' && expression.type !== 'TemplateLiteral')
              walk(expression, inPage);
          return;
        }
        break;
      case 'TaggedTemplateExpression':
        walk(node.template.expressions, inPage);
        return;
      case 'BinaryExpression':
        if (/^[!=]==?$/.test(node.operator)) return;
        break;
      case 'StringLiteral':
        add(node.value, node.span.start, inPage);
        return;
      case 'TemplateLiteral':
        add(node.quasis.map(({ cooked, raw }) => cooked ?? raw).join('…'), node.span.start, inPage);
        walk(node.expressions, inPage);
        return;
      default:
        break;
    }
    for (const [key, child] of Object.entries(node))
      if (key !== 'span' && key !== 'typeAnnotation') walk(child, inPage);
  };
  walk(ast.body, false);
  return found;
}

/** All texts of the application, by file. @param folders files or folders, below the project or absolute */
export const allTexts = (folders = textFolders) =>
  folders
    .map((folder) => (existsSync(folder) ? folder : join(root, folder)))
    .flatMap((path) => (statSync(path).isDirectory() ? filesIn(path) : [path]))
    .filter((path) => !notTexts.test(path))
    .map((path) => ({ path: relative(root, path), texts: textsIn(readFileSync(path, 'utf8'), path) }))
    .filter(({ texts }) => texts.length > 0);

/** What no text says, and what it says instead. */
const notSaid = [
  [/^Board$/, 'Overview'],
  [/\bpartner(?:s|’s)?\b/i, 'supplier'],
  [/\boutbox\b|^Out$/i, 'Submissions'],
  [/\bnotices?\b/i, 'notification', /safety notice/],
  [/\b(?:bring(?:s|ing)?|brought)\b/i, 'import, restore'],
  [/\bcame (?:in|of|about)\b|\bcomes? of\b|\bwhat came\b/i, 'import run, result, how this value was made'],
  [
    /^(?:Place|Not now|Later|Leave as it was|Make|Drop|Unmark|Take)$/,
    'Cancel, Create, Add, Remove, Dismiss, Accept',
  ],
  [
    /\bt(?:ak(?:e|es|en|ing)|ook)\b(?! effect\b)[^.;]{0,40}\b(?:out|away|back|up|on)\b/i,
    'remove, delete, withdraw, accept',
  ],
  [/\b(?:leav(?:e|es|ing)|left) out\b/i, 'exclude'],
  [/\b(?:placed|placements?|where it belongs|to place)\b/i, 'mapped to a category'],
  [/\bvalue tables?\b/i, 'value mapping'],
  [/\b(?:a must|must here|must be filled)\b|^(?:must|should|may)$/, 'required, recommended, optional'],
  [/\b(?:remarks?|alarms?|doubts?|doubtful)\b/i, 'blocker, warning, tip, issue'],
  [/\badvise[sd]?\b/i, 'recommended'],
  [/\brisks?\b/i, 'warning'],
  [/\bremed(?:y|ies)\b|\bfrees\b/i, 'fix'],
  [/\brefus(?:e|es|ed|al|als|ing)\b/i, 'reject'],
  [/\bon (?:its|their) way\b|\bnever there\b|\bnever answered\b/i, 'waiting for the channel, not sent'],
  [/\b(?:the|a|an|its|each|any|first|no) leads?\b(?! to\b)|\bmembers?\b/i, 'parent, variant'],
  [/\bsays? otherwise\b/i, 'overridden, differs'],
  [/\bfilled from\b/i, 'source'],
  [/\bit takes \d|\bit takes …/i, 'scope'],
  [/\bworked out\b|\bworking out\b/i, 'calculating'],
  [/\b(?:its|their|an|the) hours?\b(?! and\b)/i, 'scheduled time'],
  [/\b(?:is|are|was|were|be|been) (?:told|said)\b/i, 'name who does what'],
  [/\bheld (?:back|against)\b|\bhold(?:s|ing)? back\b/i, 'held for review'],
  [/\blook(?:ed|s|ing)? (?:at|over)\b/i, 'review, check'],
  [/\bstands? (?:in|on|at|for|there|well|alone|out)\b|\bhow (?:it|they) stands?\b/i, 'is'],
  [/\bgo(?:es|ing)? on\b|\bwent on\b/i, 'continue, resume'],
  [/\bunder way\b/i, 'in progress'],
  [/\bany more\b|\bno more\b(?! than\b)/i, 'no longer'],
  [/\bsigns\b/i, 'characters'],
  [/\b(?:whoever|whatever)\b|^(?:What is|Of|Such as) /, 'a noun'],
  [/\bmended\b|\bmend\b/i, 'correct, fix'],
];
const MAX_WORDS = 25;

/** Text without what is put in at run time; a list of words for the program has no sentences. */
const sentencesOf = (text) => text.split(/(?<=[.!?:;])\s+|\s·\s/);
const isWordList = (text) => /\||,\S/.test(text) || (!/[.!?:;…]/.test(text) && !/^\p{Lu}/u.test(text));
/** Two nouns or two verbs in one label. */
const namesTwo = /^\p{Lu}[\p{L}’-]+ ?\/ ?\p{L}/u;

/** What is wrong with texts. @returns lines to print */
export function complaintsOf(files) {
  return files.flatMap(({ path, texts }) =>
    texts.flatMap(({ line, text, label }) => [
      ...notSaid.flatMap(([pattern, instead, unless]) =>
        pattern.test(text) && !unless?.test(text)
          ? [`${path}:${line}  “${text}” has “${pattern.exec(text)?.[0]}”. Say: ${instead}.`]
          : [],
      ),
      ...(isWordList(text)
        ? []
        : sentencesOf(text)
            .filter(
              (sentence) =>
                sentence.split(/\s+/).filter((word) => /[\p{L}\p{N}]/u.test(word)).length > MAX_WORDS,
            )
            .map(
              (sentence) => `${path}:${line}  has a sentence of more than ${MAX_WORDS} words: “${sentence}”`,
            )),
      ...(label && text.length < 30 && namesTwo.test(text)
        ? [`${path}:${line}  “${text}” names two things`]
        : []),
    ]),
  );
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) {
  const given = process.argv.slice(2).filter((word) => !word.startsWith('--'));
  const files = allTexts(given.length > 0 ? given : undefined);
  process.stdout.on('error', () => process.exit());
  if (process.argv.includes('--check')) {
    const complaints = complaintsOf(files);
    process.stdout.write(`${complaints.map((one) => `${one}\n`).join('')}`);
    const count = files.reduce((sum, { texts }) => sum + texts.length, 0);
    process.stdout.write(`${count} texts, ${complaints.length} against the vocabulary\n`);
    process.exitCode = complaints.length > 0 ? 1 : 0;
  } else
    for (const { path, texts } of files) {
      process.stdout.write(`\n${path}\n`);
      for (const { line, text } of texts) process.stdout.write(`  ${String(line).padStart(4)}  ${text}\n`);
    }
}
