'use client';
import { formatNumber } from '@/core/formatting/formatting';
import { useAddress } from '../hooks/useAddress';
import { SelectField } from './inputs';

interface AddressFilterProps {
  /** The name it has in the address. */
  param: string;
  /** What it filters by, such as "field". */
  what: string;
  options: readonly { readonly key: string; readonly label: string; readonly count: number }[];
  total: number;
  /** How many stand beside each other; the rest is in a list. */
  most?: number;
}

/** Filters a page by one of many: the most frequent as chips, the others in a list. */
export function AddressFilter({ param, what, options, total, most = 6 }: AddressFilterProps) {
  const { query, go } = useAddress();
  const current = query.get(param) ?? '';
  const sorted = [...options].sort((a, b) => b.count - a.count);
  const chips = sorted.slice(0, most);
  const rest = sorted.slice(most);
  const pick = (key: string) => go({ [param]: key || undefined, from: undefined });
  return (
    <div className="chipset grow">
      {[{ key: '', label: 'All', count: total }, ...chips].map(({ key, label, count }) => (
        <button
          key={key}
          type="button"
          className="filter"
          aria-pressed={current === key}
          onClick={() => pick(key)}
        >
          {label} {formatNumber(count)}
        </button>
      ))}
      {rest.length > 0 && (
        <SelectField
          name={`Other ${what}s`}
          value={rest.some(({ key }) => key === current) ? current : ''}
          prompt={`${rest.length} other ${what}s`}
          options={rest.map(({ key, label, count }) => [key, `${label} ${formatNumber(count)}`] as const)}
          onChange={pick}
        />
      )}
    </div>
  );
}
