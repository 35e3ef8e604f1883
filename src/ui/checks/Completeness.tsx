import { counted } from '@/core/formatting/formatting';
import type { CompleteView } from '@/server/stages/checks';
import { Bar } from '../kit/display/Bar';
import { useAddress } from '../kit/hooks/useAddress';
import { Link } from '../kit/Link';

const percent = (share: number): string => `${Math.round(share * 100)} %`;

/** How much of what helps the listings is there, by category, and what would raise it most. */
export function Completeness({ view }: { view: CompleteView }) {
  const { withChange } = useAddress();
  return (
    <section className="fix complete" aria-label="Completeness of listings">
      <h2>{percent(view.share)} of the required and recommended values are filled</h2>
      <p className="small muted">
        A required field counts three times, a recommended field twice. Values with a blocker do not count.
      </p>
      <div className="complete-parts">
        <div>
          <h3>Fields that would add most</h3>
          {view.fields.map(({ code, label, lacking, gain }) => (
            <div className="complete-line" key={code}>
              <Link
                href={withChange({
                  complete: undefined,
                  fix: `missing:${code}`,
                  field: code,
                  show: undefined,
                })}
                scroll={false}
              >
                {label}
              </Link>
              <span className="small muted">{counted(lacking, 'listing')}</span>
              <b className="tone-ready">+{(gain * 100).toFixed(1)} %</b>
            </div>
          ))}
        </div>
        <div>
          <h3>By category</h3>
          {view.categories.map(({ name, share }) => (
            <div className="complete-line" key={name}>
              <Link href={withChange({ category: name || '-' })} scroll={false} className="cut">
                {name || 'Without a category'}
              </Link>
              <Bar
                segments={[{ share, kind: 'primary' }]}
                label={`${percent(share)} of ${name || 'items without a category'}`}
              />
              <span>{percent(share)}</span>
            </div>
          ))}
        </div>
      </div>
    </section>
  );
}
