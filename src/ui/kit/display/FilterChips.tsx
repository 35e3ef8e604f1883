'use client';

interface FilterChipsProps<K extends string> {
  /** What can be chosen, with what each is called. */
  options: readonly (readonly [key: K, label: string])[];
  current: NoInfer<K>;
  onPick(key: NoInfer<K>): void;
}

/** A row of chips of which one is chosen: what a list shows, or which part of a page. */
export function FilterChips<K extends string>({ options, current, onPick }: FilterChipsProps<K>) {
  return (
    <div className="chipset grow">
      {options.map(([key, label]) => (
        <button
          key={key}
          type="button"
          className="filter"
          aria-pressed={current === key}
          onClick={() => onPick(key)}
        >
          {label}
        </button>
      ))}
    </div>
  );
}
