'use client';
import { Button } from '@mantine/core';
import { Dropzone } from '@mantine/dropzone';
import { IconX } from '@tabler/icons-react';
import { useRouter } from 'next/navigation';
import { type ReactNode, useRef, useState } from 'react';
import {
  addPictureAddress,
  describePicture,
  type PictureHolder,
  setPictureOrder,
} from '@/actions/catalog/items';
import { plural } from '@/core/formatting/formatting';
import { overlayLabels } from '@/core/pictures/overlay';
import type { MeasuredPicture } from '@/server/pictures/pictures';
import { useCatalog } from '../kit/hooks/useCatalog';
import { AutosaveTextField } from '../kit/inputs/inputs';
import { movedBefore, OrderedList } from '../kit/inputs/OrderedList';
import { PromptButton } from '../kit/inputs/PromptButton';
import { Link } from '../kit/Link';
import { Picture } from '../kit/Picture';
import { showRefusal } from '../kit/refusals';

interface PicturesProps {
  holder: PictureHolder;
  name: string;
  pictures: readonly MeasuredPicture[];
  /** Items whose main picture is nearly the same. */
  duplicates: readonly string[];
  /** Whether they are the family's, so that a change makes the item's own. */
  inherited: boolean;
}

/** Pictures in their order, the first being the main one: drag or arrow keys move, facts and words stand beside. */
export function Pictures({ holder, name, pictures, duplicates, inherited }: PicturesProps) {
  const acts = useCatalog();
  const router = useRouter();
  const [sending, setSending] = useState(false);
  const choose = useRef<() => void>(null);
  const links = pictures.map(({ link }) => link);
  const put = (order: readonly string[]) => acts.run((press) => setPictureOrder(holder, [...order], press));
  const send = async (files: File[]) => {
    setSending(true);
    const whose =
      'sku' in holder
        ? `sku=${encodeURIComponent(holder.sku)}`
        : `family=${encodeURIComponent(holder.family)}`;
    for (const file of files) {
      const answer = await fetch(`/api/pictures?${whose}&name=${encodeURIComponent(file.name)}`, {
        method: 'POST',
        body: file,
      });
      if (!answer.ok) {
        const { error } = await answer.json();
        showRefusal(error);
      }
    }
    setSending(false);
    router.refresh();
  };
  return (
    <Dropzone
      className="panel block"
      role="region"
      aria-label="Pictures"
      aria-busy={acts.busy || sending}
      activateOnClick={false}
      enablePointerEvents
      openRef={choose}
      inputProps={{ 'aria-label': 'Pictures to upload' }}
      onDrop={(files) => void send(files)}
    >
      <h2>
        Pictures{' '}
        <span className="muted small">
          {pictures.length} of 9{pictures.length < 5 && ', 5 or more recommended'}
          {inherited && pictures.length > 0 && ', the family’s'}
        </span>
      </h2>
      {duplicates.length > 0 && (
        <p className="small tone-risk">
          The main picture is nearly the same as that of{' '}
          <Link
            className="text"
            href={`/items?only=${duplicates.slice(0, 50).map(encodeURIComponent).join(',')}`}
          >
            {duplicates.length} other {plural(duplicates.length, 'item')}
          </Link>
          .
        </p>
      )}
      <OrderedList
        id="pictures"
        className="picture-line"
        rows={pictures}
        keyOf={({ link }) => link}
        nameOf={(_, at) => `picture ${at + 1}${at === 0 ? ', the main one' : ''}`}
        onMove={(moved, before) => put(movedBefore(pictures, moved, before).map(({ link }) => link))}
      >
        {(picture, at, grip) => (
          <PictureLine
            picture={picture}
            at={at}
            grip={grip}
            name={name}
            onRemove={() => put(links.filter((link) => link !== picture.link))}
            onDescribe={(words) => acts.run((press) => describePicture(picture.link, words, press))}
          />
        )}
      </OrderedList>
      <span className="row" style={{ flexWrap: 'wrap' }}>
        <Button variant="default" loading={sending} onClick={() => choose.current?.()}>
          Upload or drop pictures
        </Button>
        <PromptButton
          label="Add by address"
          ask="Address of the picture"
          disabled={acts.busy}
          onAnswer={(address) => acts.run((press) => addPictureAddress(holder, address, press))}
        />
      </span>
    </Dropzone>
  );
}

interface PictureLineProps {
  picture: MeasuredPicture;
  at: number;
  grip: ReactNode;
  name: string;
  onRemove(): void;
  onDescribe(words: string): void;
}

function PictureLine({ picture, at, grip, name, onRemove, onDescribe }: PictureLineProps) {
  const { link, file, facts, alternativeText } = picture;
  const longest = facts ? Math.max(facts.width, facts.height) : 0;
  return (
    <>
      {grip}
      <Picture file={file} name={alternativeText || `${name}, picture ${at + 1}`} size={72} />
      <div style={{ display: 'grid', gap: 2, minWidth: 0 }}>
        {facts ? (
          <span className="small">
            {at === 0 && <b>main </b>}
            {facts.width} × {facts.height} px, {facts.format.toUpperCase()}, {Math.round(facts.bytes / 1024)}{' '}
            KB
            {at === 0 && longest < 1000 && <span className="tone-risk">, under 1,000 px</span>}
            <span className={at === 0 && facts.whiteBorder < 0.98 ? 'tone-risk' : 'muted'}>
              , border {Math.round(facts.whiteBorder * 100)} % white
            </span>
            {facts.beside && (
              <span className={at === 0 ? 'tone-risk' : 'muted'}>
                , {facts.beside.map((one) => overlayLabels[one]).join(' and ')} around the product
              </span>
            )}
          </span>
        ) : (
          <span className="small tone-blocker" style={{ overflowWrap: 'anywhere' }}>
            Cannot be read: {link}
          </span>
        )}
        <AutosaveTextField
          name={`Alternative text of picture ${at + 1}`}
          placeholder="Describe the picture for people who cannot see it"
          value={alternativeText}
          onSave={onDescribe}
        />
      </div>
      <button type="button" className="plain" aria-label={`Remove picture ${at + 1}`} onClick={onRemove}>
        <IconX size={14} />
      </button>
    </>
  );
}
