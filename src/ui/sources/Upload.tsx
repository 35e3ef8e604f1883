'use client';
import { Button, FileButton } from '@mantine/core';
import { Dropzone } from '@mantine/dropzone';
import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import { addSource } from '@/actions/import';
import '../import/import.css';
import { TextField } from '../kit/inputs/inputs';

const accepted =
  '.csv,.tsv,.txt,.gz,.zip,.xlsx,.xls,.xlsb,.ods,.html,.htm,.xml,.json,.ndjson,.jsonl,.jsonld,text/*,application/json,application/xml';

/** Sends a file to the server; tells how far it is, and goes to its run or says why it was refused. */
function useUpload(source?: number) {
  const router = useRouter();
  const [share, setShare] = useState<number>();
  const [error, setError] = useState('');
  const take = (file: File | null | undefined) => {
    if (!file) return;
    setError('');
    setShare(0);
    // XMLHttpRequest, because fetch cannot tell how far an upload is.
    const request = new XMLHttpRequest();
    const into = source === undefined ? '' : `&source=${source}`;
    request.open('POST', `/api/sources?name=${encodeURIComponent(file.name)}${into}`);
    request.responseType = 'json';
    request.upload.onprogress = ({ loaded, total }) => setShare(total > 0 ? loaded / total : 0);
    request.onerror = () => {
      setShare(undefined);
      setError('The file did not reach the server. Nothing was changed. Try again.');
    };
    request.onload = () => {
      setShare(undefined);
      const answer: { run?: number; error?: string } = request.response ?? {};
      if (answer.run) router.push(`/sources/${answer.run}`);
      else setError(answer.error ?? 'The server could not take the file. Nothing was changed.');
    };
    request.send(file);
  };
  return { take, share, error };
}

/** Takes a file by choosing or dropping it, or an address to fetch one from. */
export function Upload() {
  const router = useRouter();
  const choose = useRef<() => void>(null);
  const [address, setAddress] = useState('');
  const [refused, setRefused] = useState('');
  const { take, share, error } = useUpload();
  const add = async () => {
    const answer = await addSource(address);
    setRefused(answer.ok ? '' : answer.words);
    if (answer.ok) {
      setAddress('');
      router.refresh();
    }
  };
  return (
    <Dropzone
      className="drop"
      role="region"
      aria-label="Import a file"
      multiple={false}
      activateOnClick={false}
      enablePointerEvents
      openRef={choose}
      loading={share !== undefined}
      inputProps={{ 'aria-label': 'File to import' }}
      onDrop={([file]) => take(file)}
    >
      <div>
        <h2>Drop a file with items here</h2>
        <span className="muted">
          Delimited text, workbook (XLSX, XLS, ODS), XML or JSON of any shape, also compressed. The format is
          detected. Nothing changes before you import.
        </span>
      </div>
      <div className="row" style={{ flexWrap: 'wrap' }}>
        <Button loading={share !== undefined} onClick={() => choose.current?.()}>
          Choose a file
        </Button>
        <span className="muted">or fetch one from</span>
        <TextField
          name="Address of a source"
          value={address}
          onChange={setAddress}
          width={240}
          placeholder="https://…"
          onEnter={() => void add()}
        />
        <Button variant="default" disabled={address.trim() === ''} onClick={() => void add()}>
          Add address
        </Button>
        {share !== undefined && <span className="muted">{Math.round(share * 100)} % uploaded</span>}
      </div>
      {(error || refused) && (
        <p className="tone-blocker" role="alert">
          {error || refused}
        </p>
      )}
    </Dropzone>
  );
}

/** A small button that brings another file into a source that is known. */
export function UploadInto({ source, name }: { source: number; name: string }) {
  const { take, share, error } = useUpload(source);
  return (
    <>
      <FileButton onChange={take} accept={accepted} inputProps={{ 'aria-label': `New file for ${name}` }}>
        {(props) => (
          <Button {...props} variant="default" loading={share !== undefined}>
            Import a new file
          </Button>
        )}
      </FileButton>
      {error && (
        <span className="tone-blocker" role="alert">
          {error}
        </span>
      )}
    </>
  );
}
