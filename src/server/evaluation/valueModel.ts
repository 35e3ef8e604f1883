import type { Row } from '../../core/catalog/value';
import { inferring, type ValueInference } from '../../core/fixes/valueInference';
import type { Snapshot } from '../catalog/snapshot';
import { Memo } from '../runtime/memo';
import { inSlices } from '../runtime/timeBudget';

/** A large catalog tells the same after a few changes: learning of it anew would take seconds. */
const large = 20_000;
const FEW_CHANGES = 50;

interface Kept {
  readonly rows: readonly Row[];
  readonly index: Snapshot['index'];
  readonly learned: Promise<ValueInference>;
}
/** By attribute: some tens of megabytes each where the catalog is large. */
const stored = new Memo<Kept>({ owner: 'value models', maxEntries: 12 });

/** Places of the rows that are others than they were; undefined where they are many, or not the same items. */
function changedSince(before: Kept, { rows, index }: Snapshot): ReadonlySet<number> | undefined {
  if (before.index !== index || before.rows.length > rows.length) return undefined;
  const changed = new Set<number>();
  for (let at = 0; at < rows.length; at++)
    if (rows[at] !== before.rows[at] && changed.add(at).size > FEW_CHANGES) return undefined;
  return changed;
}

/**
 * What the catalog tells of the values of an attribute that items lack; learned once for a catalog, the latest kept. Of a large
 * one it is learned anew when more than a few items have changed; until then nothing is told of those that did.
 */
export function valueModelOf(snapshot: Snapshot, attribute: string): Promise<ValueInference> {
  const before = stored.get(attribute);
  const changed =
    before && (before.rows === snapshot.rows ? new Set<number>() : changedSince(before, snapshot));
  if (before && changed && (changed.size === 0 || snapshot.rows.length >= large)) {
    return changed.size === 0
      ? before.learned
      : before.learned.then((learned) => (at: number) => (changed.has(at) ? undefined : learned(at)));
  }
  const { rows, index } = snapshot;
  const learned = inSlices(inferring(attribute, snapshot));
  stored.set(attribute, { rows, index, learned });
  learned.catch(() => {
    if (stored.get(attribute)?.learned === learned) stored.delete(attribute);
  });
  return learned;
}
