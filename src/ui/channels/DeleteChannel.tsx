'use client';
import { deleteChannel } from '@/actions/channels';
import { DeleteButton } from '../kit/inputs/DeleteButton';

/** Deletes a channel that the merchant made, once no feed uses it. */
export function DeleteChannel({ code, name }: { code: string; name: string }) {
  return (
    <DeleteButton
      label="Delete"
      words={`All versions of the sheet of ${name} are deleted.`}
      type={code}
      act={() => deleteChannel(code)}
      then="/channels"
    />
  );
}
