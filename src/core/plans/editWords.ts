import { type PlanEdit, titleWords } from './edit';
import type { Plan } from './plan';

const listed = (names: readonly string[]): string =>
  names.length <= 2 ? names.join(' and ') : `${names.slice(0, 2).join(', ')} and ${names.length - 2} more`;

/** An edit in a few words, for undo and history. @param before the plan it is made on, where what it names is looked up */
export function editWords(edit: PlanEdit, before: Plan, labelOf: (field: string) => string): string {
  const ruleName = (id: string) => `“${before.rules.find((rule) => rule.id === id)?.name ?? id}”`;
  switch (edit.edit) {
    case 'fields': {
      const names = Object.keys(edit.fields).map(labelOf);
      return `${Object.values(edit.fields).every((value) => value === null) ? 'emptied' : 'mapped'} ${listed(names)}`;
    }
    case 'table':
      return `changed the value mapping “${edit.name}”`;
    case 'place':
      return `mapped ${listed(Object.keys(edit.placements))} to categories`;
    case 'exceptions':
      return `mapped the category of ${listed(Object.keys(edit.exceptions))}`;
    case 'title':
      return `changed ${listed(Object.keys(edit.set).map((option) => titleWords[option as keyof typeof titleWords]))} of the title${edit.branch === undefined ? '' : ` in ${edit.branch}`}`;
    case 'titleIn':
      return edit.own
        ? `gives ${edit.branch} its own title pattern`
        : `${edit.branch} uses the feed’s title pattern again`;
    case 'searchWords':
      return edit.set === null
        ? 'keywords no longer fill a field'
        : `lets keywords fill ${labelOf(edit.set.field)}`;
    case 'titleByHand':
      return Object.values(edit.titles).every((one) => one === null)
        ? `gives ${listed(Object.keys(edit.titles))} the title from the pattern again`
        : `wrote the title of ${listed(Object.keys(edit.titles))} by hand`;
    case 'checks': {
      const [mine] = Object.values(edit.own ?? {});
      if (mine !== undefined) return mine === null ? 'deleted an own check' : `checks “${mine.words}”`;
      const waivers = Object.values(edit.waived ?? {});
      if (waivers.length > 0)
        return waivers.some((one) => one !== null)
          ? 'waived a check for some items'
          : 'ended the waiver of a check';
      return Object.values(edit.severity ?? {}).every((one) => one === null)
        ? 'reset the severity of a check'
        : 'changed the severity of a check';
    }
    case 'families': {
      const names = Object.keys(edit.set.families ?? {});
      const [shown] = Object.values(edit.set.families ?? {});
      if (names.length > 0)
        return `${shown === 'singly' ? 'lists the variants one by one of' : shown === 'together' ? 'shows together' : 'shows like the feed'} ${listed(names)}`;
      return edit.set.apart ? 'changed which axes split families' : 'changed how families are shown';
    }
    case 'joined': {
      const all = Object.entries(edit.joined);
      const [[sku = '', one] = []] = all;
      if (all.length === 1) return one ? `joined ${sku} to ${one.entry}` : `separated ${sku} from its entry`;
      return all.some(([, entry]) => entry)
        ? `joined ${all.length} items to entries of the channel`
        : `separated ${all.length} items from their entries`;
    }
    case 'addRule':
      return `added the rule “${edit.rule.name}”`;
    case 'rule':
      return edit.set.on === undefined
        ? `changed the rule ${ruleName(edit.id)}`
        : `switched the rule ${ruleName(edit.id)} ${edit.set.on ? 'on' : 'off'}`;
    case 'ruleGroup':
      return 'on' in edit.set
        ? `switched the rules of “${edit.group}” ${edit.set.on ? 'on' : 'off'}`
        : edit.set.name === null
          ? `dissolved the group “${edit.group}”`
          : `renamed the group “${edit.group}” to “${edit.set.name}”`;
    case 'removeRule':
      return `deleted the rule ${ruleName(edit.id)}`;
    case 'moveRule':
      return `moved the rule ${ruleName(edit.id)}`;
    case 'words':
      return `added ${listed(Object.keys(edit.words).map((word) => `“${word}”`))} to the value mapping “${edit.table}”`;
    case 'perCategory':
      return `mapped ${labelOf(edit.field)} by category`;
    case 'scope':
      return 'changed the scope';
    case 'met':
      return edit.proof
        ? `entered the proof of “${edit.what}”`
        : `${edit.on ? 'met' : 'no longer meets'} “${edit.what}”`;
    case 'untranslated':
      return edit.to === 'nothing'
        ? 'leaves texts without a translation empty'
        : 'uses the main language where a translation is missing';
    case 'plan':
      return 'loaded a plan';
  }
}

/** How many settings differ between two plans: fields, tables, placements, title, rules. */
export function countChanges(a: Plan, b: Plan): number {
  const records: [Record<string, unknown>, Record<string, unknown>][] = [
    [a.fields, b.fields],
    [a.tables, b.tables],
    [a.placements, b.placements],
    [a.exceptions, b.exceptions],
    [a.perCategory, b.perCategory],
    [a.titlesByHand ?? {}, b.titlesByHand ?? {}],
    [a.joined ?? {}, b.joined ?? {}],
    [a.titlesIn ?? {}, b.titlesIn ?? {}],
    [byId(a), byId(b)],
    [
      {
        title: a.title,
        families: a.families,
        searchWords: a.searchWords,
        checks: a.checks,
        scope: a.scope,
        met: [...a.met].sort(),
        proofs: a.proofs,
        untranslated: a.untranslated,
      },
      {
        title: b.title,
        families: b.families,
        searchWords: b.searchWords,
        checks: b.checks,
        scope: b.scope,
        met: [...b.met].sort(),
        proofs: b.proofs,
        untranslated: b.untranslated,
      },
    ],
  ];
  return records.reduce(
    (sum, [left, right]) =>
      sum +
      [...new Set([...Object.keys(left), ...Object.keys(right)])].filter(
        (key) => JSON.stringify(left[key]) !== JSON.stringify(right[key]),
      ).length,
    0,
  );
}

const byId = ({ rules }: Plan): Record<string, unknown> =>
  Object.fromEntries(rules.map((rule, at) => [rule.id, { rule, at }]));
