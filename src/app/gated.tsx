import { Readable } from 'node:stream';
import { notFound } from 'next/navigation';
import type { ReactNode } from 'react';
import { z } from 'zod';
import { errorAnswer } from '@/server/auth/answers';
import { authorize, type Permission } from '@/server/auth/authorize';
import { readWorkspace } from '@/server/catalog/workspace';
import { EvaluatorUnavailable } from '@/server/rpc/rpc';
import { openTempDownload, type TempDownload } from '@/server/storage/files';
import { EvaluatorUnavailableNotice } from '@/ui/frame/EvaluatorUnavailable';

/**
 * The two ways into the application besides actions: pages and route handlers. Both ask the gate first and parse what the
 * address holds with Zod; a test fails on a page or a route that was not made here.
 */

type Given = Record<string, string | string[] | undefined>;

/** A name given twice counts once, by its first value. */
const firstOf = (given: Given): Record<string, string> =>
  Object.fromEntries(
    Object.entries(given).flatMap(([name, value]) => {
      const text = Array.isArray(value) ? value[0] : value;
      return text === undefined ? [] : [[name, text]];
    }),
  );

/** A part of an address as it was before it was written into it; one with a broken escape is no part of ours. */
export const part = z.string().transform((text, context) => {
  try {
    return decodeURIComponent(text);
  } catch {
    context.addIssue({ code: 'custom', message: 'is not readable' });
    return z.NEVER;
  }
});
/** A number in an address. */
export const number = z
  .string()
  .regex(/^\d{1,15}$/, 'is a whole number')
  .transform(Number);
/** What a page's address may ask for besides, by name. */
export const anyQuery = z.record(z.string(), z.string().max(4000));

interface PageInput<P extends z.ZodType, Q extends z.ZodType> {
  readonly params: P;
  readonly query: Q;
}

interface PageProps {
  params: Promise<Given>;
  searchParams: Promise<Given>;
}

const nothing = z.object({});

/** Where the evaluator does not answer, a page that says so. @throws any other error */
export function shownAway(error: unknown): ReactNode {
  if (!(error instanceof EvaluatorUnavailable)) throw error;
  return <EvaluatorUnavailableNotice words={error.message} />;
}

/**
 * Makes a page. An address that holds what it cannot is a page that is not there.
 * @param input what the address's parts and its query must be
 */
export function page<P extends z.ZodType = typeof nothing, Q extends z.ZodType = typeof anyQuery>(
  render: (given: { params: z.output<P>; query: z.output<Q> }) => Promise<ReactNode>,
  input: Partial<PageInput<P, Q>> = {},
) {
  const open = async ({ params, searchParams }: PageProps): Promise<ReactNode> => {
    const [parts, asked] = await Promise.all([params, searchParams]);
    const found = (input.params ?? nothing).safeParse(parts ?? {});
    const query = (input.query ?? anyQuery).safeParse(firstOf(asked));
    if (!found.success || !query.success) notFound();
    // Sets how numbers and dates are written; the layout is rendered beside the page, not before it.
    await readWorkspace();
    try {
      return await authorize('look', 'opened a page', () =>
        render({ params: found.data as z.output<P>, query: query.data as z.output<Q> }),
      );
    } catch (error) {
      return shownAway(error);
    }
  };
  return open;
}

interface RouteInput<P extends z.ZodType, Q extends z.ZodType> {
  readonly right: Permission;
  /** What is done, in words, for the log. */
  readonly what: string;
  readonly params?: P;
  readonly query?: Q;
}

interface RouteGiven<P extends z.ZodType, Q extends z.ZodType> {
  readonly request: Request;
  readonly params: z.output<P>;
  readonly query: z.output<Q>;
}

/** An answer that says why in words. */
export const refuse = (error: string, status: number): Response => Response.json({ error }, { status });

/** A file that was made for whoever asks. */
export const lent = async (
  { name, bytes }: TempDownload,
  mediaType: string,
  saveAs: string,
): Promise<Response> =>
  new Response(Readable.toWeb(await openTempDownload(name)) as ReadableStream, {
    headers: {
      'content-type': mediaType,
      'content-length': String(bytes),
      'content-disposition': `attachment; filename="${saveAs}"`,
    },
  });

/** Makes a route handler. Whatever goes wrong is answered in words with a fitting status. */
export function route<P extends z.ZodType = typeof nothing, Q extends z.ZodType = typeof anyQuery>(
  { right, what, params, query }: RouteInput<P, Q>,
  handle: (given: RouteGiven<P, Q>) => Promise<Response>,
) {
  return async (request: Request, context: { params: Promise<Given | undefined> }): Promise<Response> => {
    const parts = (params ?? nothing).safeParse((await context.params) ?? {});
    if (!parts.success) return refuse('This address does not exist.', 404);
    const requested = (query ?? anyQuery).safeParse(firstOf(queryOf(request)));
    if (!requested.success) {
      const [issue] = requested.error.issues;
      return refuse(`“${issue?.path.join('.') || 'The query'}” is not valid: ${issue?.message}`, 400);
    }
    try {
      return await authorize(right, what, () =>
        handle({ request, params: parts.data as z.output<P>, query: requested.data as z.output<Q> }),
      );
    } catch (error) {
      const { words, status, ...more } = errorAnswer(error, what);
      return Response.json({ error: words, ...more }, { status });
    }
  };
}

/** The query of a request; of a name given twice the first counts. */
function queryOf(request: Request): Record<string, string[]> {
  const found: Record<string, string[]> = {};
  for (const [name, value] of new URL(request.url).searchParams) {
    if (!Object.hasOwn(found, name)) found[name] = [];
    found[name]?.push(value);
  }
  return found;
}
