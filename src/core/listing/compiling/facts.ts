import { waitsForCode } from '../../catalog/item';
import { type AttributeIndex, asList, asText, type Row } from '../../catalog/value';
import type { Sheet } from '../../channels/sheet';
import type { ExternalFacts } from '../../checks/externalFacts';
import type { Report } from '../../checks/issue';
import type { ConditionFact, Reader } from '../../conditions/conditions';
import type { Plan } from '../../plans/plan';
import type { CompiledPlan, Joins } from './compiledPlan';

export function joinsOf({ joined = {} }: Plan, sheet: Sheet, index: AttributeIndex): Joins | undefined {
  const { joins } = sheet.delivery;
  if (!joins) return undefined;
  const requested = new Set([joins.field, ...joins.asked]);
  return {
    at: sheet.fields.findIndex(({ code }) => code === joins.field),
    skuSlot: index.slotOf('sku') ?? -1,
    entries: new Map(Object.entries(joined).map(([sku, { entry }]) => [sku, entry])),
    asked: new Set(
      sheet.fields.flatMap(({ code, role }, at) => (role === 'id' || requested.has(code) ? [at] : [])),
    ),
  };
}

/** Whether an item still waits to join the feed. */
export function waitsFor(feed: string | undefined, index: AttributeIndex): (row: Row) => boolean {
  const slot = index.slotOf(waitsForCode);
  if (feed === undefined || slot === undefined) return () => false;
  return (row) => row[slot] !== undefined && asList(row[slot]).includes(feed);
}

/** Reads how a listing stands at the channel. */
export function channelStatusReader({ feed }: Plan, index: AttributeIndex, seen: ExternalFacts): Reader {
  const skuSlot = index.slotOf('sku') ?? -1;
  return (row) => {
    const found = feed === undefined ? undefined : seen.standing(feed, asText(row[skuSlot]));
    return found && [...found];
  };
}

/** Reads what was found of a listing, for conditions. @param compiled the checks of the feed, once there are any */
export function factReader(
  fact: Exclude<ConditionFact, 'standing'>,
  sheet: Sheet,
  seen: ExternalFacts,
  compiled: () => Pick<CompiledPlan, 'checks' | 'judge' | 'index'> | undefined,
): Reader {
  if (fact === 'issues') return issuesReader(compiled);
  const places = sheet.fields.flatMap(({ kind }, at) => (kind === 'pictures' ? [at] : []));
  if (fact === 'pictures')
    return (_row, values) => String(places.reduce((sum, at) => sum + asList(values[at]).length, 0));
  const main = sheet.fields.findIndex(({ role }) => role === 'image');
  return (_row, values) => {
    const [link] = asList(values[main]);
    const measured = link === undefined ? undefined : seen.picture(link);
    if (measured === undefined) return undefined;
    if (fact === 'pictureReadable') return measured === 'unreadable' ? 'no' : 'yes';
    if (measured === 'unreadable') return undefined;
    switch (fact) {
      case 'pictureWidth':
        return String(measured.width);
      case 'pictureHeight':
        return String(measured.height);
      case 'pictureFormat':
        return measured.format;
      case 'pictureBorder':
        return String(Math.round(measured.whiteBorder * 1000) / 10);
    }
  };
}

/** Reads the issues that a listing has as it stands, by check and by check and field. One that asks for issues itself has none. */
function issuesReader(compiled: () => Pick<CompiledPlan, 'checks' | 'judge' | 'index'> | undefined): Reader {
  let asking = false;
  return (row, values) => {
    const found = compiled();
    if (asking || !found) return undefined;
    const sku = asText(row[found.index.slotOf('sku') ?? -1]);
    const names = new Set<string>();
    const report: Report = (check, given, field) => {
      if (found.judge && found.judge(sku, check, field, given) === undefined) return;
      names.add(check).add(`${check}:${field}`);
    };
    asking = true;
    try {
      for (const check of found.checks) check.run(row, values, report);
    } finally {
      asking = false;
    }
    return names.size === 0 ? undefined : [...names];
  };
}
