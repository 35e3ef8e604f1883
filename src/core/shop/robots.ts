import robotsParser from 'robots-parser';

/** The name by which a shop's rules may speak of these visits. */
export const visitor = 'LivelyCart';

/** What a shop's rules for visitors say (RFC 9309). */
export interface Rules {
  /** Whether they could be read: what could not be read forbids all, for now. */
  readonly known: boolean;
  allows(address: string): boolean;
  /** The pause that is asked for between two visits, in seconds; no part of the RFC, and kept nonetheless. */
  readonly pause: number;
}

/** More of a file of rules is not read (RFC 9309, 2.5). In bytes. */
export const MAX_RULES = 500 * 1024;

/**
 * The rules behind an answer to `/robots.txt`, as RFC 9309, 2.3.1 has it: what is not there forbids nothing, a shop that fails
 * forbids all.
 * @param text undefined where no answer came
 */
export function rulesOf(address: string, status: number, text: string | undefined): Rules {
  if (text === undefined || status >= 500 || status === 429)
    return { known: false, allows: () => false, pause: 0 };
  if (status < 200 || status >= 300) return { known: true, allows: () => true, pause: 0 };
  const parsed = robotsParser(address, text.slice(0, MAX_RULES));
  return {
    known: true,
    // It knows nothing of addresses of other hosts; those have rules of their own.
    allows: (page) => parsed.isAllowed(page, visitor) ?? false,
    pause: Math.min(60, parsed.getCrawlDelay(visitor) ?? 0),
  };
}
