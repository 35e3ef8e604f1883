import type { Field } from '../channels/sheet';
import type { Issue } from '../checks/issue';
import type { Composition } from '../compose/composition';
import { type Step, stepSchema, stepWords } from '../compose/steps';
import type { Condition } from '../conditions/conditions';
import { unitNames } from '../measures/units';
import type { PlanEdit } from '../plans/edit';
import type { Plan } from '../plans/plan';
import { nextRuleId } from '../rules/copying';

/** A change of a plan that may clear a cause: whether it does is found by trying it. */
export interface Candidate {
  readonly edits: readonly PlanEdit[];
  readonly words: string;
  /** Whether nothing of what stands there is lost by it, so that it may be taken unseen. */
  readonly keepsAll: boolean;
}

/** Phrases that are taken out by one step. */
const MAX_PHRASES = 40;

/** What several issues of one check found, each once; phrases with a comma in them cannot be named to a step. */
function phrasesIn(issues: readonly Issue[]): string[] {
  const found = new Set<string>();
  for (const { facts } of issues)
    if ('found' in facts && typeof facts.found === 'string') found.add(facts.found.trim());
  return [...found].filter((one) => one !== '' && !one.includes(',')).slice(0, MAX_PHRASES);
}

const unitIn = (unit: string | undefined) => unitNames.find((one) => one === unit);

/** Steps that would mend what a check says of a field, each with whether it keeps all that is said there. */
function stepsFor(check: Issue['check'], issues: readonly Issue[], field: Field): [Step, boolean][] {
  const most = field.length?.most;
  switch (check) {
    case 'tooLong':
      return most === undefined
        ? []
        : [[{ step: 'shorten', most, measure: field.length?.measure ?? 'characters' }, false]];
    case 'capitals':
      return [[{ step: 'case', to: 'sentence' }, false]];
    case 'promotion':
    case 'contact':
    case 'symbols':
    case 'placeholder': {
      const words = phrasesIn(issues).join(', ');
      return words === '' || words.length > 2000 ? [] : [[{ step: 'takeOut', words }, false]];
    }
    case 'garbled':
      // Of a rich text all that is bold or a list would go.
      return [[{ step: 'stripMarkup' }, field.kind !== 'richText']];
    case 'measure': {
      const to = (field.units ?? []).flatMap((unit) => unitIn(unit) ?? []);
      // Another unit of the same thing is counted over; which unit a bare number is in, nobody can know.
      return to.map((unit): [Step, boolean] => [{ step: 'measure', to: unit }, true]);
    }
    case 'date':
      // Whether 03/04 is in March or in April, nobody can know.
      return [[{ step: 'date', to: 'iso' }, false]];
    case 'yesNo':
      return [[{ step: 'yesNo' }, true]];
    case 'whole':
      return [[{ step: 'number', decimals: 0 }, false]];
    case 'tooMany': {
      const taken = field.values?.most;
      return taken === undefined ? [] : [[{ step: 'take', from: 1, to: taken }, false]];
    }
    case 'identifier':
      return field.need === 'must' ? [] : [[{ step: 'onlyValidGtin' }, false]];
    case 'link':
      return issues.every(({ facts }) => 'reason' in facts && facts.reason === 'session')
        ? // What says the product may stand there too.
          [[{ step: 'withoutQuery' }, false]]
        : [];
    default:
      return [];
  }
}

/** Where a value is wrong, as a condition on the field; undefined where none says it. */
function wrongWhere(
  check: Issue['check'],
  { code: field, number, length, pattern }: Field,
): Condition | undefined {
  switch (check) {
    case 'tooShort':
      return length?.least === undefined || length.measure !== 'characters'
        ? undefined
        : { field, is: 'shorterThan', value: String(length.least) };
    case 'range': {
      const bounds: Condition[] = [
        ...(number?.least === undefined
          ? []
          : [{ field, is: 'lessThan' as const, value: String(number.least) }]),
        ...(number?.most === undefined
          ? []
          : [{ field, is: 'moreThan' as const, value: String(number.most) }]),
      ];
      return bounds.length > 0 ? { any: bounds } : undefined;
    }
    case 'pattern':
      return pattern && { not: { field, is: 'matches', value: pattern.expression } };
    default:
      return undefined;
  }
}

/** One rule that leaves a field empty where it is wrong, if the channel does not need it. */
function ruleFor(plan: Plan, check: Issue['check'], field: Field): Candidate[] {
  const wrong = wrongWhere(check, field);
  if (!wrong || field.need === 'must' || field.mustWhen) return [];
  const name = `${field.label} is left empty where it is wrong`;
  return [
    {
      edits: [
        {
          edit: 'addRule',
          rule: {
            id: nextRuleId(plan.rules),
            name,
            on: true,
            when: { all: [{ field: field.code, is: 'filled' }, wrong] },
            then: [{ do: 'clear', field: field.code }],
          },
        },
      ],
      words: `one rule: ${name}`,
      keepsAll: false,
    },
  ];
}

const withStep = (composition: Composition, step: Step): Composition => ({
  ...composition,
  steps: [...composition.steps, stepSchema.parse(step)],
});

/** Changes of the title's pattern: a part that goes before others where there is no room, the name within what a phone shows. */
function titleCandidates(
  check: Issue['check'],
  issues: readonly Issue[],
  plan: Plan,
  field: Field,
): Candidate[] {
  const pattern = plan.title;
  if (!pattern) return [];
  switch (check) {
    case 'tooLong':
    case 'phoneCut': {
      const lower = pattern.parts.flatMap((part): Candidate[] =>
        'attribute' in part &&
        part.attribute !== 'name' &&
        !pattern.dropFirst.includes(part.attribute) &&
        !pattern.keep.includes(part.attribute)
          ? [
              {
                edits: [{ edit: 'title', set: { dropFirst: [part.attribute, ...pattern.dropFirst] } }],
                words: `the title’s part “${part.attribute}” is dropped where the title is too long`,
                keepsAll: false,
              },
            ]
          : [],
      );
      return check === 'phoneCut' && !pattern.nameOnPhone
        ? [
            {
              edits: [{ edit: 'title', set: { nameOnPhone: true } }],
              words: 'the name moves before the phone cut',
              keepsAll: false,
            },
            ...lower,
          ]
        : lower;
    }
    default:
      return stepsFor(check, issues, field).map(([step]) => ({
        edits: [
          {
            edit: 'title',
            set: {
              parts: pattern.parts.map((part) =>
                'attribute' in part ? { ...part, steps: [...part.steps, stepSchema.parse(step)] } : part,
              ),
            },
          },
        ],
        words: `each part of the title: ${stepWords(step)}`,
        keepsAll: false,
      }));
  }
}

/**
 * Changes of the plan that may clear a cause, for one check on one field.
 * @param issues those of the check on that field
 */
export function candidatesFor(plan: Plan, field: Field, issues: readonly Issue[]): Candidate[] {
  const [first] = issues;
  if (!first) return [];
  if (field.role === 'title' && plan.title) return titleCandidates(first.check, issues, plan, field);
  const steps = stepsFor(first.check, issues, field).map(([step, keepsAll]): Candidate => {
    const edits: PlanEdit[] = [];
    const usual = plan.fields[field.code];
    if (usual) edits.push({ edit: 'fields', fields: { [field.code]: withStep(usual, step) } });
    const variants = plan.perCategory[field.code];
    if (variants)
      edits.push({
        edit: 'perCategory',
        field: field.code,
        variants: variants.map((one) => ({ ...one, composition: withStep(one.composition, step) })),
      });
    return { edits, words: stepWords(step), keepsAll };
  });
  return [...steps, ...ruleFor(plan, first.check, field)];
}
