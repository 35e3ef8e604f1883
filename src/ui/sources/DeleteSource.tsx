'use client';
import { deleteSource } from '@/actions/import';
import { counted } from '@/core/formatting/formatting';
import { DeleteButton } from '../kit/inputs/DeleteButton';

/** Deletes a source; its items stay. */
export function DeleteSource({ id, name, items }: { id: number; name: string; items: number }) {
  return (
    <DeleteButton
      label="Delete"
      words={`Its mapping, schedule and import runs are deleted; no run can be undone afterwards. Its ${counted(items, 'item')} stay.`}
      type={name}
      act={() => deleteSource(id)}
    />
  );
}
