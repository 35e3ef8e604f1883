/**
 * Every text that a person meets, by where it is: `npm run texts [folder …]`. Pages' labels, buttons, messages and empty states; issue
 * sentences, errors, notifications and reports; what the terminal prints. Read from the source, so that none is missing; what is put in
 * at run time is shown as an ellipsis.
 */
import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { pathToFileURL } from 'node:url';
import { parseSync } from '@swc/core';

const root = new URL('..', import.meta.url).pathname;
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
  /\p{L}{2}.*\s.*\p{L}|\p{L}{3}.* \p{L}/u.test(text)
    ? !/^[a-z-]+(?: [a-z-]+)*$/.test(text) || text.split(' ').length > 3 || inPage
    : inPage && /^\p{Lu}\p{Ll}{2,}[.…:?]?$/u.test(text);

/** The texts of a source file, each with the line it is on. @returns a list of `{ line, text, label }` */
export function textsIn(code, path) {
  const ast = parseSync(code, { syntax: 'typescript', tsx: path.endsWith('.tsx'), target: 'es2022' });
  // Positions of the parser count bytes from where it began with this file.
  const bytes = Buffer.from(code);
  const begin = ast.span.start - (code.length - code.trimStart().length > 0 ? 0 : 0);
  const first = Math.min(ast.span.start, begin);
  const lineOf = (at) => {
    let line = 1;
    for (let i = 0; i < at - first && i < bytes.length; i++) if (bytes[i] === 10) line++;
    return line;
  };
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

/** All texts of the application, by file. */
export const allTexts = (folders = textFolders) =>
  folders
    .flatMap((folder) => filesIn(join(root, folder)))
    .map((path) => ({ path: relative(root, path), texts: textsIn(readFileSync(path, 'utf8'), path) }))
    .filter(({ texts }) => texts.length > 0);

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href)
  for (const { path, texts } of allTexts(process.argv.length > 2 ? process.argv.slice(2) : undefined)) {
    process.stdout.write(`\n${path}\n`);
    for (const { line, text } of texts) process.stdout.write(`  ${String(line).padStart(4)}  ${text}\n`);
  }
