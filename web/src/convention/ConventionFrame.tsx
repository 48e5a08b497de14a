import { useWorkspace } from '../session/useWorkspace';
import { StopFrame } from '../shell/StopFrame';

/** The sides of the convention: read it, change it, learn it from what is live, and look back. */
export function ConventionFrame() {
  const workspace = useWorkspace();
  const base = `/w/${workspace.name}/convention`;
  return (
    <StopFrame
      workspace={workspace}
      label="Convention"
      tabs={[
        { to: base, words: 'Rules' },
        { to: `${base}/edit`, words: 'Change', count: workspace.proposed_values, role: 'owner' },
        { to: `${base}/learn`, words: 'Learn from what is live', role: 'editor' },
        { to: `${base}/versions`, words: 'Versions' },
      ]}
      aside={`version ${workspace.convention_version}`}
    />
  );
}
