/** Writes what there is to know of every check, from their definitions. */
import type { Issue } from '../src/core/checks/issue';
import { checkNames, issueTitle, issueWords } from '../src/core/checks/messages';
import { issueKinds } from '../src/core/checks/registry';
import { type FamilyIssue, familyIssueSeverity, familyIssueText } from '../src/core/families/familyIssues';

const cell = (text: string): string => text.replaceAll('|', '\\|').replaceAll('\n', ' ');

/** Faults of families, each with an example. */
const faults: readonly FamilyIssue[] = [
  { fault: 'places', skus: ['QM-GLV-SOF-FER-L'], place: 'Hats' },
  { fault: 'sameVariant', skus: ['QM-APR-LIN-FER-M', 'QM-APR-LIN-FER-M2'], values: 'fern, M' },
  { fault: 'noAxis', skus: ['QM-APR-LIN-FER-M'], axis: 'Size' },
  { fault: 'notAllowed', axis: 'Plug' },
  { fault: 'axisAlike', axis: 'Colour', value: 'fern' },
  { fault: 'leadNumber', number: '9520000030070' },
  { fault: 'brands', brands: ['Quillmoss', 'Tarnholt'] },
  { fault: 'alone' },
  { fault: 'noPicture', sku: 'QM-APR-LIN-FER-M' },
  { fault: 'samePicture', axis: 'Colour' },
  { fault: 'sameTitle', skus: ['QM-CLO-S', 'QM-CLO-M'], title: 'Glass cloche' },
  { fault: 'gap', values: ['terracotta, 18 cm'] },
];

/** The document as Markdown. */
export function checksText(): string {
  const label = 'The field';
  const rows = checkNames.map((check) => {
    const { about, severity, on, source, example } = issueKinds[check];
    const worst = severity === 'the sheet’s' ? 'blocker' : (severity[0] ?? 'risk');
    const issue = { check, severity: worst, field: 'x', facts: example } as Issue;
    return [
      `\`${check}\``,
      `${about}${source ? ` (${source})` : ''}`,
      on,
      severity === 'the sheet’s' ? severity : severity.join(', '),
      `${issueTitle(check, label)}: “${issueWords(issue, () => label)}”`,
    ];
  });
  const table = (heads: readonly string[], lines: readonly (readonly string[])[]) =>
    [heads, heads.map(() => '---'), ...lines].map((line) => `| ${line.map(cell).join(' | ')} |`).join('\n');
  return `# Checks

Made from the files of the checks in \`src/core/checks/\` by \`npm run schemas\`. A merchant may take a check more or
less serious on a feed, or waive it for items with a reason and an end; two listings with one number cannot be waived.

${table(['Check', 'What it finds', 'On', 'Severity', 'An example'], rows)}

## Of families

Found at the Families stage, over all members of a family on one feed. They block nothing.

${table(
  ['Fault', 'Severity', 'An example'],
  faults.map((fault) => [
    `\`${fault.fault}\``,
    familyIssueSeverity[fault.fault],
    familyIssueText(fault, (place) => place),
  ]),
)}
`;
}
