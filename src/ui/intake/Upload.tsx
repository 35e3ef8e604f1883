'use client';
import { Button, FileButton } from '@mantine/core';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import './intake.css';

/** Takes a file by choosing or dropping it; progress while it uploads, a sentence where it is refused. */
export function Upload() {
  const router = useRouter();
  const [over, setOver] = useState(false);
  const [share, setShare] = useState<number>();
  const [error, setError] = useState('');
  const take = (file: File | null | undefined) => {
    if (!file) return;
    setError('');
    setShare(0);
    // XMLHttpRequest, because fetch cannot tell how far an upload is.
    const request = new XMLHttpRequest();
    request.open('POST', `/api/sources?name=${encodeURIComponent(file.name)}`);
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
  return (
    <section
      className={over ? 'drop over' : 'drop'}
      aria-label="Bring in a file"
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        take(event.dataTransfer.files[0]);
      }}
    >
      <h2>Drop a file with items here</h2>
      <span className="muted">
        CSV and other delimited text, with a heading row. Encoding and separator are found; nothing is changed
        until you say so.
      </span>
      <FileButton onChange={take} accept=".csv,.tsv,.txt,text/csv,text/plain,text/tab-separated-values">
        {(props) => (
          <Button {...props} loading={share !== undefined}>
            Choose a file
          </Button>
        )}
      </FileButton>
      {share !== undefined && <span className="muted">{Math.round(share * 100)} % uploaded</span>}
      {error && (
        <p className="tone-blocker" role="alert" style={{ maxWidth: 620 }}>
          {error}
        </p>
      )}
    </section>
  );
}
