import { Button, FileButton } from '@mantine/core';
import { useNavigate } from 'react-router';
import { acts } from '../api/acts';
import { useAct } from '../api/useAct';
import { notices } from '../parts/notices';

/** Takes in a workspace that this or another Orvant has written as one archive. */
export function BringIn() {
  const navigate = useNavigate();
  const bring = useAct('workspaces', (file: File) => acts.bringInWorkspace(file));
  const take = (file: File | null) =>
    file &&
    bring.mutate(file, {
      onSuccess: ({ workspace, notes }) => {
        notes.map((message) => notices.show({ message, autoClose: 20_000 }));
        navigate(`/w/${workspace.name}/links`);
      },
    });
  return (
    <FileButton onChange={take} accept=".zip,application/zip">
      {(props) => (
        <Button {...props} loading={bring.isPending}>
          Bring one in …
        </Button>
      )}
    </FileButton>
  );
}
