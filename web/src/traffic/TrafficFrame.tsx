import { useWorkspace } from '../session/useWorkspace';
import { StopFrame } from '../shell/StopFrame';

/** The sides of the traffic: the mix and its causes, time, tables, how far visits went, who sent them, what is claimed, what was sold, and the rows themselves. */
export function TrafficFrame() {
  const workspace = useWorkspace();
  const base = `/w/${workspace.name}/traffic`;
  return (
    <StopFrame
      workspace={workspace}
      label="Traffic"
      tabs={[
        { to: base, words: 'Weighed' },
        { to: `${base}/series`, words: 'Series' },
        { to: `${base}/table`, words: 'Table' },
        { to: `${base}/steps`, words: 'Steps' },
        { to: `${base}/referrers`, words: 'Referrers' },
        { to: `${base}/claims`, words: 'Claims' },
        { to: `${base}/orders`, words: 'Orders' },
        { to: `${base}/rows`, words: 'Rows' },
        { to: `${base}/import`, words: 'Import', role: 'editor' },
      ]}
    />
  );
}
