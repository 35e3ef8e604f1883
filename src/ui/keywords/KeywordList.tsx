'use client';
import { Button, FileButton } from '@mantine/core';
import { useState } from 'react';
import { deleteKeywords, importKeywordList } from '@/actions/catalog/keywords';
import { counted, formatNumber } from '@/core/formatting/formatting';
import type { RefusedKeyword } from '@/core/keywords/keyword';
import { commonLanguages, languageName } from '@/core/locale/languages';
import type { ImportedKeywords, KeywordLine, KeywordsView } from '@/server/catalog/keywords';
import { Bar } from '../kit/display/Bar';
import { type DataColumn, DataTable } from '../kit/display/DataTable';
import { FilterChips } from '../kit/display/FilterChips';
import { Empty } from '../kit/Empty';
import { useAddress } from '../kit/hooks/useAddress';
import { useCatalog } from '../kit/hooks/useCatalog';
import { SearchField, SelectField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';
import { textOfFile } from '../kit/inputs/textOfFile';
import './keywords.css';

const reasons: Record<RefusedKeyword['why'], string> = {
  noTerm: 'no term',
  longTerm: 'longer than 120 characters',
  noVolume: 'the volume is not a number',
  noLanguage: 'unknown language',
};

interface KeywordListProps {
  view: KeywordsView;
  /** The language shown; all where it is undefined. */
  language: string | undefined;
  /** The catalog's main language. */
  main: string;
}

/** What shoppers type: the lists a merchant brings in, and what of them was not taken. */
export function KeywordList({ view, language, main }: KeywordListProps) {
  const acts = useCatalog();
  const { go } = useAddress();
  const [find, setFind] = useState('');
  const [into, setInto] = useState(language ?? main);
  const [brought, setBrought] = useState<ImportedKeywords>();
  const most = view.lines[0]?.volume ?? 1;
  const wanted = find.trim().toLowerCase();
  const shown = view.lines.filter(({ term, category }) =>
    `${term} ${category.toLowerCase()}`.includes(wanted),
  );
  const bring = (file: File | null) => {
    if (!file) return;
    acts.run(async (press) => {
      const answer = await importKeywordList(await textOfFile(file), into, press);
      if (!answer.ok) return answer;
      setBrought(answer);
      return { ok: true, words: `${counted(answer.taken, 'keyword')} of ${file.name} imported` };
    });
  };
  const columns: DataColumn<KeywordLine>[] = [
    { head: 'Term', by: ({ term }) => term, cell: ({ term }) => term },
    {
      head: 'Searches',
      width: 190,
      by: ({ volume }) => volume,
      cell: ({ volume }) => (
        <span className="coverage">
          <Bar segments={[{ share: volume / most, kind: 'primary' }]} />
          <span className="number">{formatNumber(volume)}</span>
        </span>
      ),
    },
    {
      head: 'Language',
      width: 120,
      by: (one) => one.language,
      className: 'muted',
      cell: (one) => languageName(one.language),
    },
    {
      head: 'Category',
      width: 210,
      by: ({ category }) => category,
      cell: ({ category }) => category || <span className="muted">any with a word of the term</span>,
    },
    {
      head: '',
      width: 110,
      className: 'nowrap',
      cell: ({ term, category, language: of }) => (
        <TextButton onClick={() => acts.run((press) => deleteKeywords(of, { term, category }, press))}>
          Delete
        </TextButton>
      ),
    },
  ];
  return (
    <>
      <header className="page-head">
        <h1>Keywords</h1>
        <span className="sub">search terms of shoppers with their volume, for titles and search fields</span>
        <div className="acts">
          <SearchField name="Find a term" start={find} onFind={setFind} />
          <SelectField
            name="Language of rows that name none"
            width={130}
            value={into}
            options={commonLanguages.map((one) => [one, languageName(one)] as const)}
            onChange={setInto}
          />
          <FileButton accept=".csv,.tsv,.txt,text/csv" onChange={bring}>
            {(props) => (
              <Button {...props} loading={acts.busy}>
                Import a list
              </Button>
            )}
          </FileButton>
        </div>
      </header>
      {brought && (
        <div className="panel brought" role="status">
          <span className="grow">
            <b>{counted(brought.taken, 'keyword')}</b> imported
            {brought.twice > 0 && `, ${brought.twice} duplicates: the greater volume counts`}
            {brought.refused.length > 0 && (
              <span className="tone-risk">, {counted(brought.refused.length, 'row')} rejected</span>
            )}
          </span>
          <TextButton onClick={() => setBrought(undefined)}>Close</TextButton>
          {brought.refused.length > 0 && (
            <ul className="small">
              {brought.refused.slice(0, 6).map(({ line, why, found }) => (
                <li key={line}>
                  line {line}: {reasons[why]} {found && <span className="mono">{found}</span>}
                </li>
              ))}
              {brought.refused.length > 6 && <li>and {brought.refused.length - 6} more</li>}
            </ul>
          )}
        </div>
      )}
      {view.languages.length > 0 && (
        <div className="row" style={{ paddingBottom: 8 }}>
          <FilterChips
            options={[
              ['', `All ${formatNumber(view.languages.reduce((sum, [, count]) => sum + count, 0))}`] as const,
              ...view.languages.map(
                ([one, count]) => [one, `${languageName(one)} ${formatNumber(count)}`] as const,
              ),
            ]}
            current={language ?? ''}
            onPick={(one) => go({ language: one || undefined })}
          />
          {language !== undefined && view.total > 0 && (
            <TextButton onClick={() => acts.run((press) => deleteKeywords(language, undefined, press))}>
              Take all in {languageName(language)} away
            </TextButton>
          )}
        </div>
      )}
      <div className="panel scrolling">
        <DataTable
          rows={shown}
          columns={columns}
          keyOf={(one) => [one.language, one.category, one.term].join('|')}
          rowHeight={37}
          empty={
            <Empty title={wanted === '' ? 'No keywords yet.' : 'No term matches.'}>
              {wanted === '' && (
                <span>
                  Import a CSV with the columns <b>term</b> and <b>volume</b>; <b>language</b> and{' '}
                  <b>category</b> are optional.
                </span>
              )}
            </Empty>
          }
        />
      </div>
      {view.total > view.lines.length && (
        <p className="small muted">
          The {formatNumber(view.lines.length)} with the most searches of {formatNumber(view.total)}.
        </p>
      )}
    </>
  );
}
