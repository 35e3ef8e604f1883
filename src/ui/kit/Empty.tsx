import type { ReactNode } from 'react';

/** What stands where nothing is: why, and below it what can be done about it. */
export function Empty({ title, children }: { title: ReactNode; children?: ReactNode }) {
  return (
    <div className="empty">
      <b>{title}</b>
      {children}
    </div>
  );
}
