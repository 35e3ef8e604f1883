import { z } from 'zod';
import type { CheckName, Severity } from './issue';
import { ownCheckSchema } from './ownCheck';

/** How serious the merchant takes a check on one feed; `off` where it is not made there. */
const severityOverrideSchema = z.enum(['blocker', 'risk', 'tip', 'off']);
export type SeverityOverride = z.infer<typeof severityOverrideSchema>;

/** A check that is not made for some items, with the reason, and until when. */
const waiverSchema = z
  .strictObject({
    check: z.string().min(1).meta({ description: '`check:field`' }),
    skus: z.array(z.string().min(1)).min(1).max(20_000),
    reason: z.string().min(1).max(300),
    until: z.iso
      .date()
      .optional()
      .meta({ description: 'the last day on which it counts; no end by default' }),
  })
  .meta({ id: 'Waiver' });
export type Waiver = z.infer<typeof waiverSchema>;

/** What the merchant says of checks on one feed; beside it the channel's own severities count. */
export const checkSettingsSchema = z
  .strictObject({
    severity: z
      .record(z.string(), severityOverrideSchema)
      .default({})
      .meta({ description: 'by `check:field`' }),
    waived: z.record(z.string(), waiverSchema).default({}).meta({ description: 'by an id' }),
    own: z
      .record(z.string(), ownCheckSchema)
      .default({})
      .meta({ description: "the merchant's own checks, by an id" }),
  })
  .meta({ id: 'Judgement' });
export type CheckSettings = z.infer<typeof checkSettingsSchema>;

export const noCheckSettings: CheckSettings = { severity: {}, waived: {}, own: {} };

/** How serious an issue is on an item in the end; undefined where it is none there. */
export type SeverityResolver = (
  sku: string,
  check: CheckName,
  field: string,
  severity: Severity,
) => Severity | undefined;

/** Compiles what a merchant says of checks. Two listings with one number are two with one number: that is not judged. */
export function compileSeverities(judgement: CheckSettings | undefined): SeverityResolver | undefined {
  const severities = Object.entries(judgement?.severity ?? {});
  const waivers = Object.values(judgement?.waived ?? {});
  if (severities.length === 0 && waivers.length === 0) return undefined;
  const judged = new Map(severities);
  const waived = new Map<string, Set<string>>();
  for (const { check, skus } of waivers) {
    const known = waived.get(check) ?? new Set();
    for (const sku of skus) known.add(sku);
    waived.set(check, known);
  }
  return (sku, check, field, severity) => {
    const key = `${check}:${field}`;
    if (waived.get(key)?.has(sku)) return undefined;
    const found = judged.get(key);
    return found === 'off' ? undefined : (found ?? severity);
  };
}

/** What still counts on a day: waivers that have ended are gone. @param day 2027-03-31 */
export function checkSettingsOn(judgement: CheckSettings, day: string): CheckSettings {
  const waived = Object.entries(judgement.waived).filter(
    ([, { until }]) => until === undefined || until >= day,
  );
  return { ...judgement, waived: Object.fromEntries(waived) };
}
