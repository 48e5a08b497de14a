import { Button, FileButton, Group, Textarea } from '@mantine/core';
import { useDebouncedCallback } from '@mantine/hooks';
import { useMutation } from '@tanstack/react-query';
import { type DragEvent, useState } from 'react';
import { Link } from 'react-router';
import { acts, type FileKind, type Upload } from '../api/acts';
import { useAct } from '../api/useAct';
import { Failure } from '../parts/Failure';
import { count } from '../parts/format';
import { useWorkspace } from '../session/useWorkspace';
import classes from './Collect.module.css';
import { Kept } from './Kept';
import { Outlook } from './Outlook';
import { Said, type SaidValues } from './Said';
import type { Source } from './sources';

interface FileSourceProps {
  source: Source;
  noun: string;
  back: string;
}

/** A file (or pasted text) is chosen, looked at, and kept: what is good in it is kept, what is not is listed with the reason. */
export function FileSource({ source, noun, back }: FileSourceProps) {
  const { name } = useWorkspace();
  const { file, said, preview, keep, upload, take, match, say } = useReading(source);
  const drop = (event: DragEvent) => {
    event.preventDefault();
    take(event.dataTransfer.files[0]);
  };

  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: dropping is a second way; the button is the first
    <div onDragOver={(event) => event.preventDefault()} onDrop={drop}>
      <p className={classes.about}>{source.about}</p>
      <Said asks={source.asks} values={said} onChange={say} />
      {source.accept ? (
        <Group gap={8}>
          <FileButton onChange={take} accept={source.accept}>
            {(props) => (
              <Button {...props} variant={file ? 'default' : 'filled'}>
                {file ? 'Choose another file' : 'Choose a file'}
              </Button>
            )}
          </FileButton>
          <span>
            {file ? `${file.name}, ${count(Math.ceil(file.size / 1024))} kB` : 'or drop it anywhere on this page'}
          </span>
          <Button component={Link} to={`/w/${name}/${back}`} variant="subtle">
            Back to {back}
          </Button>
        </Group>
      ) : (
        <PasteField onRead={(text) => take(new File([text], 'pasted text'))} />
      )}
      {preview.isPending && <p role="status">Reading …</p>}
      {preview.isError && <Failure error={preview.error} />}
      {preview.data && file && !keep.data && (
        <Outlook
          name={name}
          preview={preview.data}
          noun={noun}
          alone={source.asks.includes('source') && !said.source}
          busy={keep.isPending}
          onMatch={match}
          onDecided={() => preview.mutate(upload(file))}
          onKeep={() => keep.mutate(upload(file))}
        />
      )}
      {keep.data && <Kept kept={keep.data} noun={noun} back={`/w/${name}/${back}`} />}
    </div>
  );
}

/** The file that was chosen, what was said beside it, and what became of it. */
function useReading(source: Source) {
  const { name } = useWorkspace();
  const [file, setFile] = useState<File | null>(null);
  const [said, setSaid] = useState<SaidValues>({});
  const [matching, setMatching] = useState<Record<string, string>>();
  const preview = useMutation({
    mutationFn: (upload: Upload) => acts.preview(name, upload),
    // What was said beside the last file of this kind is taken over, as long as nothing else has been said.
    onSuccess: (read, given) => {
      if (Object.keys(said).length === 0 && Object.keys(read.said).length > 0) {
        setSaid(read.said);
        preview.mutate({ ...given, ...read.said });
      }
    },
  });
  const keep = useAct(name, (upload: Upload) => acts.importFile(name, upload));

  const upload = (chosen: File, columns = matching): Upload => ({
    file: chosen,
    kind: source.kind as FileKind,
    ...said,
    ...(columns ? { matching: JSON.stringify(columns) } : {}),
  });
  const take = (chosen: File | null | undefined) => {
    if (chosen) {
      setFile(chosen);
      setMatching(undefined);
      keep.reset();
      preview.mutate(upload(chosen, undefined));
    }
  };
  const match = (columns: Record<string, string>) => {
    setMatching(columns);
    if (file) {
      preview.mutate(upload(file, columns));
    }
  };
  const readAgain = useDebouncedCallback(
    (values: SaidValues) => file && preview.mutate({ ...upload(file), ...values }),
    400,
  );
  const say = (values: SaidValues) => {
    setSaid(values);
    readAgain(values);
  };
  return { file, said, preview, keep, upload, take, match, say };
}

function PasteField({ onRead }: { onRead: (text: string) => void }) {
  const [text, setText] = useState('');
  return (
    <>
      <Textarea
        aria-label="Text with addresses"
        placeholder="Paste here"
        autosize
        minRows={5}
        maxRows={14}
        maw={760}
        value={text}
        onChange={(event) => setText(event.currentTarget.value)}
      />
      <Button mt={6} variant="filled" disabled={text.trim() === ''} onClick={() => onRead(text)}>
        Find the addresses
      </Button>
    </>
  );
}
