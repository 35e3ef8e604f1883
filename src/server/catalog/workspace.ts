import { eq } from 'drizzle-orm';
import { InputError } from '../../core/errors/inputError';
import { setFormatting } from '../../core/formatting/formatting';
import { isLocale } from '../../core/locale/locales';
import { minorUnits } from '../../core/measures/currencies';
import { currentUser, recordActivity } from '../auth/authorize';
import { db } from '../db/connection';
import { workspace } from '../db/schema';
import { setDayZone } from '../runtime/calendarDay';
import { raiseRevision } from './changes';

/** What is set once for the whole workspace. */
export interface Workspace {
  readonly name: string;
  readonly currency: string | undefined;
  readonly zone: string;
  /** What texts are in where nothing says another language; BCP 47 primary subtag. */
  readonly language: string;
  /** How numbers, dates and times are written; language and region, BCP 47. */
  readonly locale: string;
}

/** Reads what is set for the workspace, and sets how this process writes numbers and dates. */
export async function readWorkspace(): Promise<Workspace> {
  const [row] = await db.select().from(workspace);
  const { zone, locale } = row ?? { zone: 'UTC', locale: 'en-GB' };
  setDayZone(zone);
  setFormatting({ locale, zone });
  return {
    name: row?.name ?? '',
    currency: row?.currency || undefined,
    zone,
    language: row?.language ?? 'en',
    locale,
  };
}

/** The merchant's name, as files that are sent name their author. */
export const merchantName = async (): Promise<string> => (await readWorkspace()).name || 'Lively Cart';

/**
 * Sets what holds for the whole workspace.
 * @throws InputError where the currency or the zone is none
 */
export async function saveWorkspace(given: {
  readonly name: string;
  readonly currency: string;
  readonly zone: string;
  readonly language: string;
  readonly locale: string;
}): Promise<void> {
  const person = await currentUser();
  if (minorUnits(given.currency) === undefined)
    throw new InputError('noCurrency', { currency: given.currency });
  if (given.zone !== 'UTC' && !Intl.supportedValuesOf('timeZone').includes(given.zone))
    throw new InputError('noZone', { zone: given.zone });
  if (!isLocale(given.locale)) throw new InputError('noLocale', { locale: given.locale });
  await db.transaction(async (tx) => {
    await tx.update(workspace).set(given).where(eq(workspace.id, 1));
    setDayZone(given.zone);
    setFormatting(given);
    // Amounts that name no currency mean another one from now on.
    await raiseRevision(tx);
    await recordActivity(
      person,
      'changed the settings',
      `${given.name}, ${given.currency}, ${given.zone}, ${given.locale}`,
    );
  });
}
