import { formatDay } from '@/core/formatting/formatting';
import { Link } from '../kit/Link';
import type { Column } from './columns';

/** A cell while nobody edits it: a family leads to its page, a date is in the locale's form. */
export function GridText({ column: { code, kind }, text }: { column: Column; text: string }) {
  if (code === 'family' && text !== '')
    return (
      <Link href={`/families/${encodeURIComponent(text)}`} tabIndex={-1}>
        {text}
      </Link>
    );
  return <span className={code === 'name' ? 'strong' : ''}>{kind === 'date' ? formatDay(text) : text}</span>;
}
