import { type Learned, learning } from '../../core/remedies/workingOut';
import type { Snapshot } from '../catalog/snapshot';
import { inSlices } from '../listings/patience';

/** What was learned of attributes, the latest last: some tens of megabytes each in a large catalog. */
let kept: { of: Snapshot; attribute: string; learned: Promise<Learned> }[] = [];
const mostKept = 6;

/** What the catalog tells of the values of an attribute that items lack; learned once for a catalog. */
export function learnedOf(snapshot: Snapshot, attribute: string): Promise<Learned> {
  const known = kept.find((one) => one.of === snapshot && one.attribute === attribute);
  if (known) return known.learned;
  const learned = inSlices(learning(attribute, snapshot));
  kept = [...kept.filter((one) => one.of === snapshot), { of: snapshot, attribute, learned }].slice(
    -mostKept,
  );
  return learned;
}
