/** What happened, said where it happened. */
export function Said({ problem = false, children }: { problem?: boolean; children: React.ReactNode }): React.ReactNode {
  return (
    <div className={`ov-said${problem ? ' is-problem' : ''}`} role={problem ? 'alert' : 'status'}>
      {children}
    </div>
  );
}
