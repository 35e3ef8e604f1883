'use client';
import { deleteSource } from '@/actions/sources';
import { counted } from '../kit/counted';
import { Delete } from '../kit/Delete';

/** Deletes a source; its items stay. */
export function DeleteSource({ id, name, items }: { id: number; name: string; items: number }) {
  return (
    <Delete
      label="Delete"
      words={`Its mapping, its schedule and its runs are deleted, so that none of them can be undone any more. Its ${counted(items, 'item')} stay.`}
      type={name}
      act={() => deleteSource(id)}
    />
  );
}
