'use client';
import { Button, FileButton } from '@mantine/core';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { deleteSupplier, importSupplierRange, previewSupplierRange } from '@/actions/catalog/suppliers';
import { counted, formatNumber } from '@/core/formatting/formatting';
import type { RangePreview, SupplierLine } from '@/server/suppliers/suppliers';
import { DataTable } from '../kit/display/DataTable';
import { When } from '../kit/display/When';
import { Empty } from '../kit/Empty';
import { useCatalog } from '../kit/hooks/useCatalog';
import { coded, SelectField, TextField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';
import { textOfFile } from '../kit/inputs/textOfFile';
import { Link } from '../kit/Link';
import './suppliers.css';

/** The ranges of makers and partners whose goods the merchant sells under codes of its own. */
export function SupplierList({ ranges }: { ranges: readonly SupplierLine[] }) {
  const acts = useCatalog();
  const router = useRouter();
  const [file, setFile] = useState<{ name: string; text: string; look: RangePreview }>();
  const look = (chosen: File | null) => {
    if (!chosen) return;
    acts.run(async () => {
      const text = await textOfFile(chosen);
      const answer = await previewSupplierRange(text);
      if (!answer.ok) return answer;
      setFile({ name: chosen.name.replace(/\.[^.]+$/, ''), text, look: answer.look });
      return { ok: true, words: `${counted(answer.look.rows, 'row')} in ${chosen.name}` };
    });
  };
  return (
    <>
      <header className="page-head">
        <h1>Suppliers</h1>
        <span className="sub">ranges of suppliers, with their own codes</span>
        <div className="acts">
          <FileButton accept=".csv,.tsv,.txt,text/csv" onChange={look}>
            {(props) => (
              <Button {...props} loading={acts.busy}>
                Import a range
              </Button>
            )}
          </FileButton>
        </div>
      </header>
      {file && (
        <Mapping
          key={file.text.length}
          file={file}
          onClose={() => setFile(undefined)}
          onBring={(name, mapping) =>
            acts.run(async (press) => {
              const answer = await importSupplierRange(name, file.text, mapping, press);
              if (!answer.ok) return answer;
              router.push(`/suppliers/${answer.code}`);
              const refused =
                answer.refused.length > 0
                  ? `; ${counted(answer.refused.length, 'row')} rejected, the first in line ${answer.refused[0]?.line}: ${answer.refused[0]?.why === 'noCode' ? 'no code' : 'its code occurs twice'}`
                  : '';
              return {
                ok: true,
                words: `${counted(answer.variants, 'variant')} imported, ${answer.sure} matched${refused}`,
              };
            })
          }
        />
      )}
      <div className="panel scrolling">
        <DataTable
          rows={ranges}
          keyOf={({ code }) => code}
          columns={[
            {
              head: 'Range',
              by: ({ name }) => name,
              cell: ({ code, name }) => (
                <Link className="text" href={`/suppliers/${code}`}>
                  {name}
                </Link>
              ),
            },
            {
              head: 'Variants',
              className: 'number',
              by: ({ variants }) => variants,
              cell: ({ variants }) => formatNumber(variants),
            },
            {
              head: 'Matched',
              className: 'number',
              by: ({ pairs }) => pairs,
              cell: ({ pairs }) => formatNumber(pairs),
            },
            {
              head: 'Imported',
              by: ({ importedAt }) => importedAt.getTime(),
              cell: ({ importedAt }) => <When at={importedAt} />,
            },
            {
              head: '',
              width: 110,
              className: 'nowrap',
              cell: ({ code }) => (
                <TextButton onClick={() => acts.run((press) => deleteSupplier(code, press))}>
                  Delete
                </TextButton>
              ),
            },
          ]}
          empty={
            <Empty title="No ranges yet.">
              <span>
                Import the list of a supplier: code, name, colour, size, cost and stock. Its variants are
                matched to your items. For example:
              </span>
              <code className="mono small">Item code;Description;Colour;Size;Cost;Stock</code>
              <code className="mono small">DD-4296;Linen apron;Fern green;M;11.40;25</code>
            </Empty>
          }
        />
      </div>
    </>
  );
}

interface MappingProps {
  file: { name: string; look: RangePreview };
  onBring(name: string, mapping: Record<string, string>): void;
  onClose(): void;
}

/** Which attribute each column is, as it was read; a person only nods. */
function Mapping({ file, onBring, onClose }: MappingProps) {
  const { columns, attributes } = file.look;
  const [name, setName] = useState(file.name);
  const [chosen, setChosen] = useState<Record<string, string>>(() =>
    Object.fromEntries(columns.map(({ column, attribute }) => [column, attribute ?? ''])),
  );
  const ready = name.trim() !== '' && Object.values(chosen).includes('sku');
  return (
    <form
      className="panel range-mapping"
      onSubmit={(event) => {
        event.preventDefault();
        if (ready)
          onBring(
            name,
            Object.fromEntries(Object.entries(chosen).filter(([, attribute]) => attribute !== '')),
          );
      }}
    >
      <div className="row">
        <TextField name="Name of the range" shown="beside" value={name} onChange={setName} width={240} />
        <span className="grow" />
        <TextButton onClick={onClose}>Cancel</TextButton>
        <Button type="submit" disabled={!ready}>
          Match its {counted(file.look.rows, 'variant')}
        </Button>
      </div>
      {!Object.values(chosen).includes('sku') && (
        <span className="tone-blocker small">Choose the column of the supplier’s code.</span>
      )}
      <table className="columns">
        <tbody>
          {columns.map(({ column, samples }) => (
            <tr key={column}>
              <td>{column}</td>
              <td className="mono small muted cut">{samples.join(' · ')}</td>
              <td>
                <SelectField
                  name={`What ${column} is`}
                  width={210}
                  value={chosen[column] ?? ''}
                  options={[['', 'not used'] as const, ...coded(attributes)]}
                  onChange={(attribute) => setChosen({ ...chosen, [column]: attribute })}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </form>
  );
}
