import { axisCodes } from '../../core/catalog/attributes';
import { groupRows } from '../../core/catalog/grouping';
import { asList, asText, type Row, type Value } from '../../core/catalog/value';
import { nameOf, pathOf } from '../../core/categories/tree';
import { fieldWithRole, type Sheet } from '../../core/channels/sheet';
import { firstPicture } from '../../core/checks/externalFacts';
import { attributesOf, attributesOfParts } from '../../core/compose/composition';
import {
  type FamilyAxis,
  type FamilyIssue,
  type FamilyMember,
  familyIssueSeverity,
  familyIssues,
  familyIssueText,
  gapsOf,
} from '../../core/families/familyIssues';
import { noFamilyChoice, type Shown, shownOf } from '../../core/families/shape';
import { shaped, sheetAsShown } from '../../core/ledger/families';
import type { Listing } from '../../core/listing/evaluate';
import { BATCH_ROWS, type Steps } from '../../core/listing/steps';
import { fold, foldAlike } from '../../core/text/folding';
import { variantWordsIn } from '../catalog/snapshot';
import type { FeedContext } from '../evaluation/feedContext';
import { ledgerOf } from '../ledger/ledger';
import { pictureFile } from '../pictures/pictures';
import { memoFor, WeakMemo } from '../runtime/memo';
import { inSlices } from '../runtime/timeBudget';

/** A family in the list of a feed's families. */
export interface FamilyLine {
  readonly code: string;
  readonly name: string;
  /** Members that the feed does not leave out, and those of them that are ready. */
  readonly members: number;
  readonly ready: number;
  readonly shown: Shown;
  readonly faults: readonly { readonly severity: 'risk' | 'tip'; readonly words: string }[];
}

/** Single listings that look like one family. */
export interface Joinable {
  readonly skus: readonly string[];
  readonly name: string;
  readonly axes: readonly string[];
}

export interface VariantCell {
  readonly sku: string;
  readonly title: string;
  readonly picture: string | undefined;
  readonly state: Listing['state'];
  /** What blocks it, or its price. */
  readonly words: string;
}

export interface FamilyDetailView extends FamilyLine {
  readonly chosenBy: 'family' | 'branch' | 'feed';
  readonly lead: { readonly title: string; readonly picture: string | undefined; readonly words: string };
  readonly axes: readonly {
    readonly attribute: string;
    readonly label: string;
    /** What it is to the channel, in its words; empty where it is nothing there. */
    readonly fields: readonly string[];
    readonly allowed: boolean;
    readonly inTitle: boolean;
    readonly apart: boolean;
  }[];
  /** What the branch lets families vary by, in the channel's words; undefined where the sheet says nothing. */
  readonly allowed: { readonly branch: string; readonly fields: readonly string[] } | undefined;
  readonly place: string;
  readonly branch: { readonly code: string; readonly name: string } | undefined;
  /** The last axis runs across, the others down. */
  readonly across: readonly string[];
  readonly down: readonly {
    readonly words: string;
    /** The channel's words for them, where they differ. */
    readonly theirs: string;
    readonly cells: readonly (readonly VariantCell[])[];
  }[];
  readonly gaps: number;
  readonly onChannel: readonly { readonly label: string; readonly words: string }[];
  /** What blocks its members, that which blocks most first. */
  readonly blockers: readonly { readonly words: string; readonly skus: readonly string[] }[];
}

export interface FamiliesStage {
  /** How the channel shows families. */
  readonly manner: Sheet['delivery']['families'] | 'none';
  /** Whether families that stand together are one entry each, though the channel shows single listings. */
  readonly asOne: boolean;
  /** Whether items may join what the channel has already. */
  readonly joins: boolean;
  readonly feed: Shown;
  readonly families: readonly FamilyLine[];
  readonly total: number;
  readonly toShape: number;
  readonly joinable: readonly Joinable[];
  readonly current: FamilyDetailView | undefined;
}

/** Families that are looked at before others have their turn. */
const BATCH_FAMILIES = 100;
/** Families and groups of singles that a page shows. */
const MAX_COUNT = 400;

interface Member {
  readonly listing: Listing;
  readonly row: Row;
}

/** What is known of every family of a feed. */
interface Known {
  readonly code: string;
  readonly members: readonly Member[];
  readonly axes: readonly FamilyAxis[];
  readonly views: readonly FamilyMember[];
  readonly shown: ReturnType<typeof shownOf>;
  readonly faults: readonly FamilyIssue[];
  readonly place: string | undefined;
}

/**
 * What was found of a family, by its first member's listing: an edit leaves the listings it does not touch the same objects, and a
 * family of which all are the same, seen through the same settings, is as it was.
 */
const foundBefore = new WeakMemo<
  Listing,
  { readonly by: string; readonly family: unknown; readonly known: Known }
>('families of a feed');

function asBefore(members: readonly Member[], family: unknown, by: string): Known | undefined {
  const [first] = members;
  const before = first && foundBefore.get(first.listing);
  if (!before || before.by !== by || before.family !== family) return undefined;
  const { known } = before;
  const same =
    known.members.length === members.length &&
    members.every(
      ({ listing, row }, at) => known.members[at]?.listing === listing && known.members[at]?.row === row,
    );
  return same ? known : undefined;
}

/** The families of a feed with what is wrong with each, found once for a draft. */
const familiesOf = (work: FeedContext): Promise<ReadonlyMap<string, Known>> =>
  memoFor(work.draft, 'families', () => inSlices(findingFamilies(work)));

function* findingFamilies(work: FeedContext): Steps<Map<string, Known>> {
  const { draft, snapshot, sheet, plans } = work;
  const { compiled } = draft;
  const slot = (code: string) => snapshot.index.slotOf(code) ?? -1;
  const [familySlot, brandSlot, gtinSlot, imageSlot] = [
    slot('family'),
    slot('brand'),
    slot('gtin'),
    slot('image'),
  ];
  const groups = new Map<string, Member[]>();
  for (const [at, row] of snapshot.rows.entries()) {
    if (at % BATCH_ROWS === 0) yield;
    const code = asText(row[familySlot]);
    const listing = code === '' || draft.listings.isLeftOut(at) ? undefined : draft.listings.at(at);
    if (!listing) continue;
    // What joins an entry of the channel stands in no family there.
    if (compiled.joins && listing.values[compiled.joins.at] !== undefined) continue;
    const members = groups.get(code);
    if (members) members.push({ listing, row });
    else groups.set(code, [{ listing, row }]);
  }
  const fieldsBy = fieldsByAttribute(work);
  const choice = plans.draft.families ?? noFamilyChoice;
  const title = plans.draft.title;
  const inTitle = new Set(attributesOfParts(title?.parts ?? []));
  const role = (name: Parameters<typeof fieldWithRole>[1]) => {
    const field = fieldWithRole(sheet, name);
    return field ? sheet.fields.indexOf(field) : -1;
  };
  const titleAt = role('title');
  const known = new Map<string, Known>();
  const labels = snapshot.attributes.map(({ code, label }) => [code, label]);
  const by = JSON.stringify([choice, [...inTitle], [...fieldsBy], sheet.code, sheet.version, labels]);
  for (const [code, members] of groups) {
    if (known.size % BATCH_FAMILIES === 0) yield;
    const family = snapshot.families.get(code);
    const before = asBefore(members, family, by);
    if (before) {
      known.set(code, before);
      continue;
    }
    const place = commonest(members.map(({ listing }) => asText(listing.values[compiled.categoryAt])));
    const path = place === undefined ? [] : pathOf(compiled.tree, place);
    const shown = shownOf(choice, code, path.toReversed());
    const allowed = allowedIn(sheet, path);
    const axes = (family?.variesBy ?? []).map((attribute): FamilyAxis => {
      // Fields that may tell variants apart come before those that merely say something of it.
      const filled = fieldsBy.get(attribute) ?? [];
      const telling = filled.filter((one) => allowed?.includes(one));
      const fields = telling.length > 0 ? telling : filled;
      return {
        attribute,
        label: labelOfAttribute(work, attribute),
        fields,
        allowed: !allowed || fields.some((field) => allowed.includes(field)),
        told: inTitle.has(attribute) || choice.apart.includes(attribute) || shown.shown === 'singly',
      };
    });
    const slots = axes.map(({ attribute }) => slot(attribute));
    const views = members.map(
      ({ listing, row }): FamilyMember => ({
        sku: listing.sku,
        place: asText(listing.values[compiled.categoryAt]) || undefined,
        brand: asText(row[brandSlot]),
        title: asText(listing.values[titleAt]),
        picture: firstPicture(asList(row[imageSlot])[0] ?? '', snapshot.seen),
        number: asText(row[gtinSlot]),
        axes: slots.map((at) => asText(row[at])),
      }),
    );
    const faults = familyIssues({
      axes,
      members: views,
      number: asText(family?.values.gtin),
      lead: sheet.delivery.families === 'leads' && shown.shown === 'together',
    });
    const one: Known = { code, members, axes, views, shown, faults, place };
    known.set(code, one);
    const [first] = members;
    if (first) foundBefore.set(first.listing, { by, family, known: one });
  }
  return known;
}

function commonest(texts: readonly string[]): string | undefined {
  const counts = new Map<string, number>();
  for (const text of texts) if (text !== '') counts.set(text, (counts.get(text) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0];
}

/** What a sheet lets families vary by in a place: the nearest branch that says anything. */
function allowedIn(sheet: Sheet, path: readonly string[]): readonly string[] | undefined {
  for (const code of path.toReversed())
    for (const branch of sheet.branches) if (branch.under === code && branch.variesBy) return branch.variesBy;
  return undefined;
}

/** The fields that each attribute fills by itself. */
function fieldsByAttribute({ plans, sheet }: FeedContext): ReadonlyMap<string, readonly string[]> {
  const found = new Map<string, string[]>();
  for (const { code, role } of sheet.fields) {
    const composition = plans.draft.fields[code];
    if (!composition || role === 'title' || role === 'description' || role === 'id') continue;
    for (const attribute of attributesOf(composition)) {
      const known = found.get(attribute);
      if (known) known.push(code);
      else found.set(attribute, [code]);
    }
  }
  return found;
}

const labelOfAttribute = ({ snapshot }: FeedContext, code: string): string =>
  snapshot.attributes.find((one) => one.code === code)?.label ?? code;

/** Faults that somebody should look at: what merely could be nicer is not counted. */
const serious = (faults: readonly FamilyIssue[]) =>
  faults.filter(({ fault }) => familyIssueSeverity[fault] === 'risk');

/** How many families of a feed want to be shaped. */
export const familiesToShape = async (work: FeedContext): Promise<{ total: number; toShape: number }> => {
  const all = [...(await familiesOf(work)).values()];
  return { total: all.length, toShape: all.filter(({ faults }) => serious(faults).length > 0).length };
};

/** Single listings of one brand and category whose names differ by what tells variants apart. */
const joinableOf = (work: FeedContext): readonly Joinable[] =>
  memoFor(work.draft, 'joinable', () => {
    const { snapshot, draft } = work;
    const slots = new Map(snapshot.index.codes.map((code, at) => [code, at]));
    const at = (row: Row, code: string): Value | undefined => row[slots.get(code) ?? -1];
    const kinds = new Map<string, { sku: string; values: Record<string, Value> }[]>();
    for (const [i, row] of snapshot.rows.entries()) {
      if (asText(at(row, 'family')) !== '' || draft.listings.isLeftOut(i)) continue;
      const [brand, category] = [asText(at(row, 'brand')), asText(at(row, 'category'))];
      if (category === '') continue;
      const values: Record<string, Value> = {};
      for (const code of ['name', ...axisCodes]) {
        const value = at(row, code);
        if (value !== undefined) values[code] = value;
      }
      const key = `${fold(brand)}\n${category}`;
      const list = kinds.get(key) ?? [];
      list.push({ sku: snapshot.skus[i] ?? '', values });
      kinds.set(key, list);
    }
    return [...kinds.values()]
      .flatMap((rows) => groupRows(rows, 'names', axisCodes).families)
      .filter(({ axes }) => axes.length > 0)
      .map(({ skus, name, axes }) => ({
        skus,
        name,
        axes: axes.map((code) => labelOfAttribute(work, code)),
      }));
  });

const fileOf = (member: FamilyMember | undefined): string | undefined =>
  member?.picture ? pictureFile(member.picture) : undefined;

const severityOf = (fault: FamilyIssue) => familyIssueSeverity[fault.fault];

export interface FamiliesQuery {
  readonly [name: string]: string | undefined;
  readonly family?: string | undefined;
  readonly show?: string | undefined;
  readonly find?: string | undefined;
}

/** The Families stage: each family as the feed shows it, what is wrong with it, and singles that could be one. */
export async function familiesStage(work: FeedContext, query: FamiliesQuery): Promise<FamiliesStage> {
  const { sheet, plans } = work;
  const { tree } = work.draft.compiled;
  const { language } = plans.head;
  const known = await familiesOf(work);
  const lines = [...known.values()]
    .map((one): FamilyLine => lineOf(work, one))
    .sort(
      (a, b) =>
        Number(b.faults.some(({ severity }) => severity === 'risk')) -
          Number(a.faults.some(({ severity }) => severity === 'risk')) || a.name.localeCompare(b.name),
    );
  const wanted = fold(query.find ?? '');
  const matching = lines.filter(
    ({ name, code, faults }) =>
      (wanted === '' || fold(`${name} ${code}`).includes(wanted)) &&
      (query.show !== 'toShape' || faults.some(({ severity }) => severity === 'risk')),
  );
  const code = matching.find((one) => one.code === query.family)?.code ?? matching[0]?.code ?? '';
  const current = known.get(code);
  return {
    manner: fieldWithRole(sheet, 'group') ? sheet.delivery.families : 'none',
    joins: sheet.delivery.joins !== undefined,
    feed: plans.draft.families?.feed ?? 'together',
    asOne: plans.draft.families?.asOne ?? false,
    families: matching.slice(0, MAX_COUNT),
    total: lines.length,
    toShape: (await familiesToShape(work)).toShape,
    joinable: joinableOf(work).slice(0, MAX_COUNT),
    current: current && (await detailOf(work, current, (place) => nameOf(tree, place, language))),
  };
}

function lineOf(work: FeedContext, { code, members, faults, shown }: Known): FamilyLine {
  const { tree } = work.draft.compiled;
  return {
    code,
    name: asText(work.snapshot.families.get(code)?.values.name) || code,
    members: members.length,
    ready: members.filter(({ listing }) => listing.state === 'ready').length,
    shown: shown.shown,
    faults: faults.map((fault) => ({
      severity: severityOf(fault),
      words: familyIssueText(fault, (place) => nameOf(tree, place, work.plans.head.language)),
    })),
  };
}

function blockersOf(work: FeedContext, members: readonly Member[]): FamilyDetailView['blockers'] {
  const found = new Map<string, string[]>();
  for (const { listing } of members)
    for (const words of new Set(
      listing.issues.filter(({ severity }) => severity === 'blocker').map(work.wordsOf),
    ))
      found.set(words, [...(found.get(words) ?? []), listing.sku]);
  return [...found].map(([words, skus]) => ({ words, skus })).sort((a, b) => b.skus.length - a.skus.length);
}

async function detailOf(
  work: FeedContext,
  family: Known,
  nameOfPlace: (place: string) => string,
): Promise<FamilyDetailView> {
  const { sheet, plans, draft } = work;
  const { tree } = draft.compiled;
  const { members, axes, views, shown, place } = family;
  const path = place === undefined ? [] : pathOf(tree, place);
  const fieldAt = new Map(sheet.fields.map(({ code }, at) => [code, at]));
  const priceAt = fieldAt.get(fieldWithRole(sheet, 'price')?.code ?? '') ?? -1;
  const titleAt = fieldAt.get(fieldWithRole(sheet, 'title')?.code ?? '') ?? -1;
  const cellOf = (at: number): VariantCell => {
    const { listing } = members[at] as Member;
    const blocker = listing.issues.find(({ severity }) => severity === 'blocker');
    return {
      sku: listing.sku,
      title: asText(listing.values[titleAt]),
      picture: fileOf(views[at]),
      state: listing.state,
      words: blocker
        ? work.labelOf(blocker.field)
        : asText(listing.values[priceAt]).replace(/ [A-Z]{3}$/, ''),
    };
  };
  // The last axis runs across; what is left runs down, in the order in which it comes.
  const last = axes.length - 1;
  const across = axes.length > 1 ? [...new Set(views.map((member) => member.axes[last] ?? ''))] : [''];
  const downKeys = [
    ...new Set(views.map((member) => (axes.length > 1 ? member.axes.slice(0, -1) : member.axes).join('\n'))),
  ];
  const words = (attribute: string | undefined, at: number): string => {
    const axis = axes.find((one) => one.attribute === attribute);
    const value = members[at]?.listing.values[fieldAt.get(axis?.fields[0] ?? '') ?? -1];
    return asText(value);
  };
  const down = downKeys.map((key) => {
    const own = views.flatMap((member, at) =>
      (axes.length > 1 ? member.axes.slice(0, -1) : member.axes).join('\n') === key ? [at] : [],
    );
    const values = key.split('\n');
    const theirs = axes
      .slice(0, Math.max(1, last))
      .map(({ attribute }, n) => {
        const stated = words(attribute, own[0] ?? -1);
        return stated !== '' && !foldAlike(stated, values[n] ?? '') ? stated : '';
      })
      .filter((stated) => stated !== '')
      .join(', ');
    return {
      words: values.map((value) => value || '(none)').join(', '),
      theirs,
      cells: across.map((value) =>
        own.filter((at) => axes.length < 2 || (views[at]?.axes[last] ?? '') === value).map(cellOf),
      ),
    };
  });
  const allowed = allowedIn(sheet, path);
  const choice = plans.draft.families ?? noFamilyChoice;
  const inTitle = new Set(attributesOfParts(plans.draft.title?.parts ?? []));
  const shape = sheetAsShown(sheet, choice);
  const entries = shaped(
    shape,
    members.map(({ listing }) => listing),
    new Set(),
    variantWordsIn(work.snapshot),
  );
  const lead = entries.find(({ relation }) => relation === 'lead') ?? entries[0];
  const ledger = await ledgerOf(plans.head.code);
  const there = members.filter(({ listing }) => ledger.get(listing.sku)?.held).length;
  const refused = members.filter(({ listing }) => ledger.get(listing.sku)?.refused).length;
  const leadEntry = lead ? ledger.get(lead.sku) : undefined;
  const branch = path[path.length > 1 ? path.length - 2 : 0];
  return {
    ...lineOf(work, family),
    chosenBy: shown.by,
    lead: {
      title: asText(lead?.values[titleAt]),
      picture: fileOf(views[0]),
      words:
        lead?.relation === 'lead'
          ? 'title without axis values · picture of the first variant · no GTIN'
          : shown.shown === 'singly'
            ? 'each variant listed by itself, no group'
            : shape.delivery.families === 'oneEntry'
              ? 'one entry for all: the first variant, with the main pictures of all'
              : `each variant listed by itself, grouped as ${asText(lead?.values[fieldAt.get(fieldWithRole(sheet, 'group')?.code ?? '') ?? -1]) || 'nothing'}`,
    },
    axes: axes.map(({ attribute, label, fields, allowed: may }) => ({
      attribute,
      label,
      fields: fields.map(work.labelOf),
      allowed: may,
      inTitle: inTitle.has(attribute),
      apart: choice.apart.includes(attribute),
    })),
    allowed: allowed && {
      branch: nameOfPlace(path[0] ?? ''),
      fields: allowed.map(work.labelOf),
    },
    place: place === undefined ? '' : nameOfPlace(place),
    branch: branch === undefined ? undefined : { code: branch, name: nameOfPlace(branch) },
    across,
    down,
    gaps: gapsOf(views).length,
    onChannel: [
      ...(leadEntry?.number ? [{ label: 'Its ID at the channel', words: leadEntry.number }] : []),
      {
        label: 'Variants',
        words: [
          there > 0 ? `${there} accepted` : '',
          refused > 0 ? `${refused} rejected` : '',
          members.length - there - refused > 0 ? `${members.length - there - refused} not sent yet` : '',
        ]
          .filter((one) => one !== '')
          .join(', '),
      },
    ],
    blockers: blockersOf(work, members),
  };
}
