import { useWorkspace } from '../session/useWorkspace';
import { StopFrame } from '../shell/StopFrame';

/** The sides of the inventory: the list, how links come in, how new ones are made, and what shows only over many. */
export function LinksFrame() {
  const workspace = useWorkspace();
  const base = `/w/${workspace.name}/links`;
  return (
    <StopFrame
      workspace={workspace}
      label="Links"
      tabs={[
        { to: base, words: 'List' },
        { to: `${base}/import`, words: 'Collect', role: 'editor' },
        { to: `${base}/build`, words: 'Build', role: 'editor' },
        { to: `${base}/signposts`, words: 'Signposts' },
        { to: `${base}/over-all`, words: 'Spellings', count: workspace.over_all },
      ]}
    />
  );
}
