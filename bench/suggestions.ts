/**
 * How often what is suggested is right, on labels that nothing was tuned on: places by name alone and with the names of a
 * few items, and the curve of confidence. `npm run bench -- suggestions`; `-- suggestions tuning` shows the labels that the
 * weights were made on. Fetches the dictionaries first where they are not there yet.
 */
import { dictionariesIn, expanderWith, fetchDictionaries } from '../src/files/words';
import { choiceResults } from '../tests/support/choiceLabels';
import { columnResults } from '../tests/support/columnLabels';
import { fieldResults } from '../tests/support/fieldLabels';
import { type LabelledResult, labelledResults, labelledTrees, sharesOf } from '../tests/support/placeLabels';

const folder = process.env.LIVELY_WORDS ?? '.words';
const file = process.argv.includes('tuning') ? 'tuning' : 'held';
await fetchDictionaries(folder, async (done, of) => console.log(`dictionary ${done} of ${of} fetched`)).catch(
  (error) => console.log(`no dictionaries: ${error instanceof Error ? error.message.split('\n')[0] : error}`),
);
console.log(`dictionaries: ${dictionariesIn(folder).join(', ') || 'none'}; labels: ${file}`);

const percent = (share: number) => `${(share * 100).toFixed(1)} %`;
const shares = (results: readonly { rank: number }[]) => {
  const { first, three } = sharesOf(results);
  return `right first ${percent(first)}, among three ${percent(three)} of ${results.length}`;
};

/** Of suggestions by how sure they say they are, how many are right. */
function curve(results: readonly { rank: number; confidence: number }[]): void {
  const steps = [0, 20, 40, 60, 80, 90, 95, 101];
  for (const [at, from] of steps.slice(0, -1).entries()) {
    const to = steps[at + 1] ?? 101;
    const those = results.filter(({ confidence }) => confidence >= from && confidence < to);
    if (those.length === 0) continue;
    const said = those.reduce((sum, { confidence }) => sum + confidence, 0) / those.length / 100;
    const right = those.filter(({ rank }) => rank === 0).length / those.length;
    console.log(
      `    ${String(from).padStart(3)} to ${String(Math.min(100, to - 1)).padStart(3)}: ${String(those.length).padStart(4)} suggestions, ${percent(said)} said, ${percent(right)} right`,
    );
  }
}

const expander = expanderWith(folder);
const wrong: LabelledResult[] = [];
for (const [words, withItems, using] of [
  ['places by name alone', false, expander],
  ['places with the names of two items', true, expander],
  ['places by name alone, without dictionaries', false, expanderWith()],
] as const) {
  const results = labelledResults(file, using, withItems);
  console.log(`${words}: ${shares(results)}`);
  for (const tree of labelledTrees)
    console.log(`  ${tree}: ${shares(results.filter((one) => one.tree === tree))}`);
  curve(results);
  wrong.push(...results.filter(({ rank, confidence }) => rank !== 0 && confidence >= 95));
}
console.log('wrong among what is taken by default:', wrong.length);
for (const { tree, name, found } of wrong) console.log(`  ${tree}: ${name} → ${found}`);

const choices = choiceResults(file, (word) => expander.translate(word));
console.log(`choice words: ${shares(choices)}`);
curve(choices);

const english = (word: string) => expander.otherWords(word);
const columns = columnResults(file, english);
console.log(`columns: ${shares(columns)}`);
curve(columns);
for (const { table, column, found, right } of columns.filter(({ rank }) => rank !== 0))
  console.log(`  ${table}: ${column} → ${found}, right: ${right}`);
console.log(`columns, without dictionaries: right ${percent(sharesOf(columnResults(file)).first)}`);

for (const file of ['held', 'further', 'third', 'fourth'] as const) {
  const fields = fieldResults(file, english);
  console.log(`fields, ${file}: ${shares(fields)}`);
  curve(fields);
  for (const { language, label, found, right } of fields.filter(({ rank }) => rank !== 0))
    console.log(`  ${language}: ${label} → ${found}, right: ${right}`);
}
