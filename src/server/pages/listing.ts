import { and, eq, inArray } from 'drizzle-orm';
import type { Attribute } from '../../core/catalog/attributes';
import { shownText } from '../../core/catalog/reading';
import { asList, asText, ownEntry, type Value } from '../../core/catalog/value';
import { nameOf, pathName } from '../../core/categories/tree';
import type { Field, FieldRole } from '../../core/channels/sheet';
import type { Severity } from '../../core/checks/issue';
import { gravity } from '../../core/checks/severity';
import { attributesOf, type Composition } from '../../core/compose/composition';
import { groundWords } from '../../core/fixes/groundWords';
import { counted } from '../../core/formatting/formatting';
import { emptyEntry } from '../../core/ledger/ledger';
import { ledgerStateText } from '../../core/ledger/messages';
import { completenessOf, shareOf } from '../../core/listing/completeness';
import type { ListingState } from '../../core/listing/evaluate';
import { textOfMarkup } from '../../core/markup/markup';
import { shownAmount } from '../../core/measures/money';
import { lengthIn } from '../../core/text/length';
import { itemNameIn } from '../catalog/snapshot';
import { db } from '../db/connection';
import { feedListing, item } from '../db/schema';
import { type FeedContext, roleField } from '../evaluation/feedContext';
import { otherFeeds } from '../evaluation/otherFeeds';
import { valueModelOf } from '../evaluation/valueModel';
import { filling } from '../fixes/fixes';
import { attributeFor, typedAs, wordsOf } from '../fixes/lines';
import { choicesFor, sharingOf } from '../fixes/valueChoices';
import { ledgerEntry } from '../ledger/ledger';
import { pictureFile } from '../pictures/pictures';
import { matchesFilter } from '../stages/checks';

/** A field of a listing: what it says, what is asked of it, what is wrong, and where it is mended. */
export interface ListingRow {
  readonly code: string;
  readonly label: string;
  readonly need: 'required' | 'required here' | 'recommended' | 'optional';
  readonly because: string | undefined;
  /** As the channel gets it, markup as text. */
  readonly value: string;
  readonly issues: readonly { readonly severity: Severity; readonly words: string }[];
  /** What fills it, in words. */
  readonly from: string;
  /** The item's value it is made of, to be mended here; undefined where another stage makes it. */
  readonly attribute:
    | { readonly definition: Attribute; readonly text: string; readonly words: readonly string[] }
    | undefined;
  readonly gauge:
    | { readonly length: number; readonly most: number; readonly phone: number | undefined }
    | undefined;
  /** A word that the channel does not take, to be said for all items that have it. */
  readonly word:
    | {
        readonly found: string;
        readonly count: number;
        readonly suggested: string;
        readonly choices: readonly { readonly code: string; readonly label: string }[];
        readonly sharing: readonly { readonly name: string }[];
      }
    | undefined;
  /** What the item's value would be, as far as the rest of the catalog tells. */
  readonly worked: { readonly value: string; readonly why: string } | undefined;
  /** The stage where it is made. */
  readonly stage: 'fields' | 'titles' | 'categories';
}

/** What a shopper meets, as far as the channel shows it. */
export interface ShopperView {
  readonly title: string;
  /** Where a phone cuts the title; undefined where the channel does not say. */
  readonly phone: number | undefined;
  readonly price: string;
  readonly availability: string;
  readonly description: string;
  readonly address: string;
  readonly place: string;
  readonly pictures: readonly (string | undefined)[];
  readonly language: string;
}

export interface ListingPage {
  readonly sku: string;
  readonly name: string;
  readonly state: ListingState;
  readonly reason: string | undefined;
  /** Where it stands among those that are gone through: those the address asks for, blocked ones where it asks for none; 0 where it is none of them. */
  readonly position: number;
  readonly of: number;
  readonly previous: string | undefined;
  readonly next: string | undefined;
  readonly rows: readonly ListingRow[];
  /** How much of what helps it is there, 0 to 1, and what would raise it most. */
  readonly complete: { readonly share: number; readonly lacking: readonly { code: string; label: string }[] };
  readonly shopper: ShopperView;
  readonly stands: readonly { readonly words: string; readonly small: string }[];
  readonly elsewhere: readonly {
    readonly feed: string;
    readonly name: string;
    readonly words: string;
    readonly tone: 'ready' | 'blocker' | 'plain';
  }[];
}

export interface ListingQuery {
  readonly item?: string | undefined;
  readonly fix?: string | undefined;
  readonly category?: string | undefined;
  readonly find?: string | undefined;
  readonly show?: string | undefined;
  readonly [name: string]: string | undefined;
}

/** What a composition takes, in words: "Glaze, else Colour, then the table colours". */
function fillingWords({ snapshot }: FeedContext, composition: Composition | undefined): string {
  if (!composition) return 'not mapped';
  const labelOf = (code: string) => snapshot.attributes.find((one) => one.code === code)?.label ?? code;
  const alternatives = composition.alternatives.map(({ parts }) =>
    parts.map((part) => ('attribute' in part ? labelOf(part.attribute) : `“${part.text}”`)).join(' + '),
  );
  const steps = composition.alternatives.reduce(
    (sum, { parts, steps }) =>
      sum +
      steps.length +
      parts.reduce((inner, part) => inner + ('attribute' in part ? part.steps.length : 0), 0),
    composition.steps.length,
  );
  return `${alternatives.slice(0, 2).join(', else ')}${alternatives.length > 2 ? ' …' : ''}${steps > 0 ? `, ${counted(steps, 'step')}` : ''}`;
}

async function rowsOf(work: FeedContext, at: number): Promise<ListingRow[]> {
  const { draft, snapshot, sheet, plans } = work;
  const listing = draft.listings.at(at);
  const row = snapshot.rows[at] ?? [];
  if (!listing) return [];
  const rows: ListingRow[] = [];
  for (const [position, field] of sheet.fields.entries()) {
    const value = listing.values[position];
    const { role, kind } = field;
    const stage =
      kind === 'category' ? 'categories' : role === 'title' && plans.draft.title ? 'titles' : 'fields';
    const compositions = filling(plans.draft, field.code);
    const code =
      stage === 'titles'
        ? 'name'
        : stage === 'categories'
          ? 'category'
          : attributeFor(work, compositions.flatMap(attributesOf), [at]);
    const definition = code === 'sku' ? undefined : snapshot.attributes.find((one) => one.code === code);
    const issues = listing.issues.filter((issue) => issue.field === field.code);
    const text =
      kind === 'category' && value !== undefined
        ? pathName(draft.compiled.tree, asText(value), plans.head.language)
        : asList(value).map(textOfMarkup).join('\n');
    const { most, phone, measure = 'characters' } = field.length ?? {};
    rows.push({
      code: field.code,
      label: field.label,
      need:
        field.need === 'must'
          ? 'required'
          : draft.compiled.mustHere[position]?.(row, listing.values)
            ? 'required here'
            : field.need === 'should'
              ? 'recommended'
              : 'optional',
      because: field.because,
      value: text,
      issues: issues
        .map((issue) => ({ severity: issue.severity, words: work.wordsOf(issue) }))
        .sort((a, b) => gravity[a.severity] - gravity[b.severity]),
      from:
        stage === 'titles'
          ? 'the title pattern'
          : stage === 'categories'
            ? 'where its category is mapped'
            : fillingWords(work, compositions[0]),
      attribute: definition && {
        definition,
        text: shownText(definition, row[snapshot.index.slotOf(definition.code) ?? -1]),
        words: wordsOf(work, definition.code),
      },
      gauge:
        most !== undefined && value !== undefined && field.length
          ? { length: lengthIn(asText(value), measure), most, phone }
          : undefined,
      word: await wordOf(work, field, at),
      worked: await workedOut(work, definition, at, issues.length > 0),
      stage,
    });
  }
  return rows;
}

async function workedOut(
  { snapshot }: FeedContext,
  definition: Attribute | undefined,
  at: number,
  wanting: boolean,
): Promise<ListingRow['worked']> {
  if (!wanting || !definition) return undefined;
  if (snapshot.rows[at]?.[snapshot.index.slotOf(definition.code) ?? -1] !== undefined) return undefined;
  const found = (await valueModelOf(snapshot, definition.code))(at);
  const value = found && typedAs(definition, found.value);
  return found && value !== undefined ? { value, why: groundWords(found) } : undefined;
}

async function wordOf(work: FeedContext, field: Field, at: number): Promise<ListingRow['word']> {
  const found = work.draft.listings
    .at(at)
    ?.issues.flatMap((issue) =>
      issue.check === 'choice' && issue.field === field.code ? [issue.facts.found] : [],
    )[0];
  if (found === undefined || !field.choices) return undefined;
  const suggest = await choicesFor(work, field);
  const { listings } = work.draft;
  const count = listings.positions((i) =>
    listings
      .issuesAt(i)
      .some((issue) => issue.check === 'choice' && issue.field === field.code && issue.facts.found === found),
  ).length;
  return {
    found,
    count,
    suggested: suggest(found)[0]?.choice ?? '',
    choices: field.choices.map(({ code, labels }) => ({ code, label: labels.en ?? code })),
    sharing: (await sharingOf(work.plans.head.code, field)).map(({ name }) => ({ name })),
  };
}

function shopperOf(work: FeedContext, at: number): ShopperView {
  const { draft, sheet, plans } = work;
  const { language, currency } = plans.head;
  const values = draft.listings.at(at)?.values ?? [];
  const field = (role: FieldRole) => roleField(sheet, role);
  const of = (role: FieldRole): Value | undefined => {
    const found = field(role);
    return found && values[sheet.fields.indexOf(found)];
  };
  const categoryAt = sheet.fields.findIndex(({ kind }) => kind === 'category');
  const pictures = sheet.fields.flatMap((one, position) =>
    one.role === 'image' || one.kind === 'pictures' ? asList(values[position]) : [],
  );
  const chosen = field('availability')?.choices?.find(({ code }) => code === asText(of('availability')));
  const place = asText(values[categoryAt]);
  return {
    title: asText(of('title')),
    phone: field('title')?.length?.phone,
    price: shownAmount(asText(of('price')), language, currency),
    availability: chosen?.labels[language] ?? chosen?.labels.en ?? asText(of('availability')),
    description: textOfMarkup(asText(of('description'))),
    address: asText(of('link')),
    place: place === '' ? '' : nameOf(draft.compiled.tree, place, language),
    pictures: [...new Set(pictures)].slice(0, 5).map((link) => pictureFile(link)),
    language,
  };
}

/** How an item stands in some feeds. The feeds are named: the key of what is kept begins with them. */
const standingIn = async (feeds: readonly string[], sku: string) =>
  feeds.length === 0
    ? []
    : db
        .select({
          feed: feedListing.feed,
          state: feedListing.state,
          reason: feedListing.reason,
          ownCauses: feedListing.ownCauses,
        })
        .from(feedListing)
        .where(and(inArray(feedListing.feed, [...feeds]), eq(feedListing.sku, sku)));

/** One listing whole: every field with what is asked and what is wrong, what its shopper meets, and how it stands everywhere. */
export async function listingPage(work: FeedContext, query: ListingQuery): Promise<ListingPage | undefined> {
  const { draft, snapshot, plans } = work;
  const at = query.item === undefined ? undefined : snapshot.positionOf(query.item);
  const listing = at === undefined ? undefined : draft.listings.at(at);
  if (at === undefined || !listing) return undefined;
  const matches = matchesFilter(work, query);
  const narrowed = query.fix !== undefined || query.show !== undefined;
  const among = draft.listings.positions(
    (place) => (narrowed || draft.listings.stateAt(place) === 'blocked') && matches(place),
  );
  const before = among.filter((place) => place < at);
  const after = among.filter((place) => place > at);
  const skuAt = (place: number | undefined) => (place === undefined ? undefined : snapshot.skus[place]);
  const others = await otherFeeds(plans.head.code);
  const [entry, elsewhere, [stored]] = await Promise.all([
    ledgerEntry(plans.head.code, listing.sku),
    standingIn(
      others.map(({ head }) => head.code),
      listing.sku,
    ),
    db.select({ origins: item.origins }).from(item).where(eq(item.sku, listing.sku)),
  ]);
  const origin = Object.values(stored?.origins ?? {}).find(({ file }) => file !== '');
  const blockers = listing.issues.filter(({ severity }) => severity === 'blocker').length;
  /** What is wrong first, the worst of it before; then what is filled, and last what may be. */
  const rank = ({ issues, value }: ListingRow) =>
    Math.min(3, ...issues.map(({ severity }) => gravity[severity])) * 2 +
    (issues.length > 0 ? Number(value !== '') : Number(value === ''));
  const rows = await rowsOf(work, at);
  const joins = draft.compiled.joins && asText(listing.values[draft.compiled.joins.at]);
  const complete = completenessOf(draft.compiled, listing, snapshot.rows[at] ?? []);
  return {
    sku: listing.sku,
    name: itemNameIn(snapshot)(at) || listing.sku,
    state: listing.state,
    reason: listing.reason,
    position: among.includes(at) ? before.length + 1 : 0,
    of: among.length,
    previous: skuAt(before.at(-1)),
    next: skuAt(after[0] ?? (before.length > 0 ? before[0] : undefined)),
    rows: [...rows].sort((a, b) => rank(a) - rank(b)),
    complete: {
      share: shareOf(complete),
      lacking: complete.lacking.slice(0, 3).map((code) => ({ code, label: work.labelOf(code) })),
    },
    shopper: shopperOf(work, at),
    stands: [
      {
        words:
          listing.state === 'ready'
            ? 'Ready'
            : listing.state === 'leftOut'
              ? `Excluded: ${listing.reason}`
              : `Blocked by ${counted(blockers, 'issue')}`,
        small: plans.published ? 'in the draft' : 'not published yet',
      },
      {
        words: `At the channel: ${ledgerStateText(entry ?? emptyEntry)}`,
        small: entry?.number ? `number ${entry.number}` : '',
      },
      ...(!joins
        ? []
        : [
            {
              words: `Matched to ${joins}`,
              small: ownEntry(plans.draft.joined ?? {}, listing.sku)?.name ?? '',
            },
          ]),
      {
        words: 'In the catalog',
        small: origin ? `${origin.file}, row ${origin.row}` : 'entered by hand',
      },
    ],
    elsewhere: others.flatMap(({ head, name, channel }) => {
      const there = elsewhere.find(({ feed }) => feed === head.code);
      if (!there) return [];
      const fields = new Map(channel.sheet.fields.map(({ code, label }) => [code, label]));
      const causes = there.ownCauses.split('\n').filter((cause) => cause !== '');
      const labels = [
        ...new Set(causes.map((cause) => fields.get(cause.slice(cause.indexOf(':') + 1)) ?? cause)),
      ];
      return [
        {
          feed: head.code,
          name,
          words:
            there.state === 'ready'
              ? 'ready'
              : there.state === 'leftOut'
                ? `excluded: ${there.reason ?? ''}`
                : `blocked: ${labels.slice(0, 3).join(', ') || 'shared with others'}`,
          tone:
            there.state === 'ready'
              ? ('ready' as const)
              : there.state === 'blocked'
                ? ('blocker' as const)
                : ('plain' as const),
        },
      ];
    }),
  };
}
