import { useQuery } from '@tanstack/react-query';
import { queries } from '../api/queries';
import { Failure } from '../parts/Failure';
import { Loading } from '../parts/Loading';
import { useWorkspace } from '../session/useWorkspace';
import { useListState } from '../shell/useListState';
import { ChannelsEditor } from './ChannelsEditor';
import classes from './Convention.module.css';
import { DialectsEditor } from './DialectsEditor';
import type { ConventionDocument } from './document';
import { Effect } from './Effect';
import { IdentifiersEditor } from './IdentifiersEditor';
import { JsonEditor } from './JsonEditor';
import { PairsEditor } from './PairsEditor';
import { RoleEditor } from './RoleEditor';
import { ScopesEditor } from './ScopesEditor';
import { useDraft } from './useDraft';
import { WorkspaceEditor } from './WorkspaceEditor';

/** The rules as they are being changed, part by part, with the effect on the links at hand beside them. */
export function EditView() {
  const { name } = useWorkspace();
  const convention = useQuery(queries.convention(name));
  if (convention.isError) {
    return <Failure error={convention.error} />;
  }
  if (!convention.data) {
    return <Loading />;
  }
  const { version, document } = convention.data;
  return <Editor key={version} version={version} saved={document as unknown as ConventionDocument} />;
}

const PARTS: [string, string][] = [
  ['pairs', 'Permitted together'],
  ['scopes', 'Where it is different'],
  ['identifiers', 'Required identifiers'],
  ['workspace', 'Hosts and personal data'],
  ['channels', 'Channel rules'],
  ['dialects', 'Tokens of networks'],
  ['all', 'The whole document'],
];

function Editor({ version, saved }: { version: number; saved: ConventionDocument }) {
  const { name } = useWorkspace();
  const { list, set } = useListState();
  const draft = useDraft(name, version, saved);
  const { document, change } = draft;
  const part = list.part ?? document.roles[0]?.role ?? 'pairs';
  const tab = (id: string, words: string) => (
    <button key={id} type="button" aria-current={id === part || undefined} onClick={() => set({ part: id })}>
      {words}
    </button>
  );
  const addRole = () => {
    const fresh = `role-${document.roles.length + 1}`;
    change({ ...document, roles: [...document.roles, { role: fresh, carriers: [fresh] }] });
    set({ part: fresh });
  };
  return (
    <div className={classes.edit}>
      <nav className={classes.parts} aria-label="Parts of the convention">
        <h2>Roles</h2>
        {document.roles.map((role) => tab(role.role, role.role))}
        <button type="button" onClick={addRole}>
          Add a role …
        </button>
        <h2>For all</h2>
        {PARTS.map(([id, words]) => tab(id, words))}
      </nav>
      <div className={classes.form}>
        <Part part={part} document={document} change={change} onRename={(role) => set({ part: role })} />
      </div>
      <Effect draft={draft} />
    </div>
  );
}

export interface PartProps {
  document: ConventionDocument;
  change: (document: ConventionDocument) => void;
}

function Part({
  part,
  document,
  change,
  onRename,
}: PartProps & { part: string; onRename: (role: string | null) => void }) {
  const index = document.roles.findIndex((role) => role.role === part);
  if (index >= 0) {
    return <RoleEditor key={index} index={index} document={document} change={change} onRename={onRename} />;
  }
  switch (part) {
    case 'scopes':
      return <ScopesEditor document={document} change={change} />;
    case 'identifiers':
      return <IdentifiersEditor document={document} change={change} />;
    case 'workspace':
      return <WorkspaceEditor document={document} change={change} />;
    case 'channels':
      return <ChannelsEditor document={document} change={change} />;
    case 'dialects':
      return <DialectsEditor document={document} change={change} />;
    case 'all':
      return (
        <JsonEditor
          key="all"
          title="The whole document"
          about="As it is kept, by docs/schemas/convention.schema.json. Paste another here to take its rules over."
          value={document}
          change={(whole) => change(whole as ConventionDocument)}
        />
      );
    default:
      return <PairsEditor document={document} change={change} />;
  }
}
