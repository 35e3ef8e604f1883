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
      return `changed the value table “${edit.name}”`;
    case 'place':
      return `placed ${listed(Object.keys(edit.placements))}`;
    case 'exceptions':
      return `placed ${Object.keys(edit.exceptions).length === 1 ? 'item' : 'items'} ${listed(Object.keys(edit.exceptions))}`;
    case 'title':
      return `changed ${listed(Object.keys(edit.set).map((option) => titleWords[option as keyof typeof titleWords]))} of the title${edit.branch === undefined ? '' : ` in ${edit.branch}`}`;
    case 'titleIn':
      return edit.own
        ? `gives ${edit.branch} a title pattern of its own`
        : `${edit.branch} has the title pattern of the feed again`;
    case 'searchWords':
      return edit.set === null
        ? 'search words fill nothing any more'
        : `lets search words fill ${labelOf(edit.set.field)}`;
    case 'titleByHand':
      return Object.values(edit.titles).every((one) => one === null)
        ? `gives ${listed(Object.keys(edit.titles))} the title of the pattern again`
        : `wrote the title of ${listed(Object.keys(edit.titles))} by hand`;
    case 'checks': {
      const [mine] = Object.values(edit.own ?? {});
      if (mine !== undefined)
        return mine === null ? 'took a check of one’s own out' : `checks “${mine.words}”`;
      const waivers = Object.values(edit.waived ?? {});
      if (waivers.length > 0)
        return waivers.some((one) => one !== null)
          ? 'waived a check for some items'
          : 'makes a check again for all items';
      return Object.values(edit.severity ?? {}).every((one) => one === null)
        ? 'takes a check as the channel does'
        : 'changed how serious a check is';
    }
    case 'families': {
      const names = Object.keys(edit.set.families ?? {});
      const [shown] = Object.values(edit.set.families ?? {});
      if (names.length > 0)
        return `${shown === 'singly' ? 'lists the members singly of' : shown === 'together' ? 'shows together' : 'shows as the feed does'} ${listed(names)}`;
      return edit.set.apart ? 'changed which axes part families' : 'changed how families are shown';
    }
    case 'joined': {
      const all = Object.entries(edit.joined);
      const [[sku = '', one] = []] = all;
      if (all.length === 1) return one ? `joined ${sku} to ${one.entry}` : `parted ${sku} from its entry`;
      return all.some(([, entry]) => entry)
        ? `joined ${all.length} items to what the channel has`
        : `parted ${all.length} items from their entries`;
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
          : `called the group “${edit.group}” “${edit.set.name}”`;
    case 'removeRule':
      return `took the rule ${ruleName(edit.id)} out`;
    case 'moveRule':
      return `moved the rule ${ruleName(edit.id)}`;
    case 'words':
      return `added ${listed(Object.keys(edit.words).map((word) => `“${word}”`))} to the value table “${edit.table}”`;
    case 'perCategory':
      return `mapped ${labelOf(edit.field)} by category`;
    case 'scope':
      return 'changed which items the feed takes';
    case 'met':
      return edit.proof
        ? `says what shows “${edit.what}”`
        : `${edit.on ? 'met' : 'no longer meets'} “${edit.what}”`;
    case 'untranslated':
      return edit.to === 'nothing'
        ? 'leaves texts without translation empty'
        : 'takes the main language where there is no translation';
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
