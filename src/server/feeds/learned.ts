import { type Learned, learning } from '../../core/remedies/workingOut';
import type { Snapshot } from '../catalog/snapshot';
import { keptFor } from '../evaluating/keptFor';
import { inSlices } from '../listings/patience';

/** Attributes that are kept as learned of a catalog: some tens of megabytes each where it is large. */
const mostKept = 6;

/** What the catalog tells of the values of an attribute that items lack; learned once for a catalog, the latest kept. */
export function learnedOf(snapshot: Snapshot, attribute: string): Promise<Learned> {
  const kept = keptFor(snapshot, 'learned', () => new Map<string, Promise<Learned>>());
  const learned = kept.get(attribute) ?? inSlices(learning(attribute, snapshot));
  kept.delete(attribute);
  kept.set(attribute, learned);
  for (const oldest of [...kept.keys()].slice(0, -mostKept)) kept.delete(oldest);
  return learned;
}
