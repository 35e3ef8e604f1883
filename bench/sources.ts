import { bringIn, sourceFiles } from '../tests/support/sources';

/** How much of files that nobody mapped comes in right by the suggested mapping alone, by file. `--details` names the rest. */
let [wanted, right, wrong] = [0, 0, 0];
for (const file of sourceFiles) {
  const found = await bringIn(file);
  wanted += found.wanted;
  right += found.right;
  wrong += found.wrong.length;
  process.stdout.write(
    `${file.padEnd(26)} ${String(Math.round((100 * found.right) / found.wanted)).padStart(3)} % right, ${found.wrong.length} wrong, ${found.missing.length} missing\n`,
  );
  if (process.argv.includes('--details'))
    for (const line of [...found.wrong, ...found.missing]) process.stdout.write(`    ${line}\n`);
}
process.stdout.write(
  `all ${((100 * right) / wanted).toFixed(1)} % right of ${wanted} values, ${wrong} wrong\n`,
);
