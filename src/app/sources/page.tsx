import Link from 'next/link';
import { listRuns } from '@/server/sources/sources';
import { When } from '@/ui/bench/When';
import { runStateWords } from '@/ui/intake/runWords';
import { Upload } from '@/ui/intake/Upload';

export default async function Page() {
  const runs = await listRuns();
  return (
    <div className="page scrolls">
      <header className="page-head">
        <h1>Sources</h1>
        <span className="sub">files that items come from</span>
      </header>
      <Upload />
      {runs.length > 0 && (
        <div className="panel">
          <table className="plain">
            <thead>
              <tr>
                <th>File</th>
                <th>When</th>
                <th>State</th>
                <th>New</th>
                <th>Changed</th>
                <th>Unchanged</th>
                <th>Rejected</th>
              </tr>
            </thead>
            <tbody>
              {runs.map((run) => (
                <tr key={run.id}>
                  <td>
                    <Link className="text" href={`/sources/${run.id}`}>
                      {run.fileName}
                    </Link>
                  </td>
                  <td className="muted">
                    <When at={run.createdAt} />
                  </td>
                  <td>{runStateWords[run.state]}</td>
                  <td>{run.counts.new}</td>
                  <td>{run.counts.changed}</td>
                  <td>{run.counts.unchanged}</td>
                  <td>{run.counts.rejected}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </div>
  );
}
