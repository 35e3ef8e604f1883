import { page } from '@/app/gated';
import { importLimitsSchema } from '@/core/import/importReview';
import { readWorkspace } from '@/server/catalog/workspace';
import { listSources } from '@/server/import/sources';
import { runStateLabels } from '@/ui/import/run/runStateLabels';
import { When } from '@/ui/kit/display/When';
import { Link } from '@/ui/kit/Link';
import { AddressForm } from '@/ui/sources/AddressForm';
import { DeleteSource } from '@/ui/sources/DeleteSource';
import { Upload, UploadInto } from '@/ui/sources/Upload';

export default page(async () => {
  const [sources, { zone }] = await Promise.all([listSources(), readWorkspace()]);
  return (
    <div className="page scrolls">
      <header className="page-head">
        <h1>Sources</h1>
        <span className="sub">files and addresses that items are imported from</span>
      </header>
      <Upload />
      {sources.length > 0 && (
        <div className="panel">
          {sources.map((source) => (
            <section className="source-card" key={source.id} aria-label={source.name}>
              <div>
                <h2>{source.name}</h2>
                <span className="small muted">
                  {source.address ? (
                    <>
                      <span className="mono">{source.address}</span>
                      {source.fetchedAt && (
                        <>
                          , checked <When at={source.fetchedAt} />: {source.fetchWords}
                        </>
                      )}
                      {source.fetchAt && (
                        <>
                          , next <When at={source.fetchAt} zone={zone} />
                        </>
                      )}
                    </>
                  ) : (
                    'imported from a file'
                  )}
                </span>
              </div>
              <div className="row">
                <AddressForm
                  source={source.id}
                  name={source.name}
                  address={source.address ?? ''}
                  schedule={source.schedule}
                  automatic={source.automatic}
                  limits={source.limits ?? importLimitsSchema.parse({})}
                />
                <UploadInto source={source.id} name={source.name} />
                <DeleteSource id={source.id} name={source.name} items={source.items} />
              </div>
              <table className="plain runs">
                <tbody>
                  {source.runs.map((run) => (
                    <tr key={run.id}>
                      <td style={{ width: '34%' }}>
                        <Link className="text" href={`/sources/${run.id}`}>
                          {run.fileName}
                        </Link>
                      </td>
                      <td className="muted">
                        <When at={run.createdAt} />
                      </td>
                      <td className={run.state === 'failed' ? 'tone-blocker' : ''}>
                        {runStateLabels[run.state]}
                      </td>
                      <td>{run.counts.new} new</td>
                      <td>{run.counts.changed} changed</td>
                      <td className="muted">{run.counts.unchanged} unchanged</td>
                      <td className={run.counts.rejected > 0 ? 'tone-blocker' : 'muted'}>
                        {run.counts.rejected} rejected
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </section>
          ))}
        </div>
      )}
    </div>
  );
});
