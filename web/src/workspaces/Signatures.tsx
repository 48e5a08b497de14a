import { Button, FileButton, Group, NativeSelect, TagsInput, TextInput } from '@mantine/core';
import { useState } from 'react';
import { Section } from '../parts/Section';
import { SignatureTrial } from './SignatureTrial';
import {
  BLANK,
  FIELDS,
  readField,
  readSignatures,
  readStanding,
  type Signature,
  type Standing,
  writtenField,
  writtenStanding,
} from './signature';
import classes from './Workspaces.module.css';

interface SignaturesProps {
  signatures: Signature[];
  write: (signatures: Signature[]) => void;
}

/** By what each tag is known: where it stands, where its signals go, and what is read from them. */
export function Signatures({ signatures, write }: SignaturesProps) {
  const [opened, setOpened] = useState<number | null>(null);
  const [fault, setFault] = useState('');
  const add = (made: Signature[]) => {
    setFault('');
    setOpened(signatures.length);
    write([...signatures, ...made]);
  };
  const take = async (file: File) => {
    try {
      add(readSignatures(await file.text()));
    } catch {
      setFault(`${file.name} holds no signature; one is saved as a file from its own form.`);
    }
  };
  return (
    <Section
      title="Signatures"
      aside={
        <Group gap={6}>
          <FileButton accept=".json" onChange={(file) => file && take(file)}>
            {(props) => <Button {...props}>Take one from a file</Button>}
          </FileButton>
          <Button onClick={() => add([BLANK])}>Describe a tag</Button>
        </Group>
      }
    >
      <p className={classes.said}>
        A sender that was heard can be made a signature under Tags, Senders, with its fields proposed.
      </p>
      {fault && <p role="alert">{fault}</p>}
      {signatures.map((one, at) => (
        <div key={at} className={classes.signature}>
          <Group gap={6}>
            <Button variant="subtle" aria-expanded={opened === at} onClick={() => setOpened(opened === at ? null : at)}>
              {one.name || 'A tag without a name'}
            </Button>
            <span className={classes.said}>
              {one.wire.map((place) => `${place.host}${place.path ?? ''}`).join(', ')}
            </span>
          </Group>
          {opened === at && (
            <SignatureForm
              signature={one}
              write={(changed) => write(signatures.with(at, changed))}
              drop={() => {
                setOpened(null);
                write(signatures.toSpliced(at, 1));
              }}
            />
          )}
        </div>
      ))}
    </Section>
  );
}

interface SignatureFormProps {
  signature: Signature;
  write: (signature: Signature) => void;
  drop: () => void;
}

function SignatureForm({ signature, write, drop }: SignatureFormProps) {
  const put = (changes: Partial<Signature>) => write(lean({ ...signature, ...changes }));
  return (
    <section aria-label={`Signature of ${signature.name || 'a tag without a name'}`} className={classes.signing}>
      <div>
        <Named signature={signature} put={put} />
        <Places signature={signature} put={put} />
        <Fields signature={signature} put={put} />
        <Events signature={signature} put={put} />
        <Group gap={6} mt={8}>
          <Button component="a" download={`${signature.tag || 'signature'}.json`} href={fileOf(signature)}>
            Save as a file
          </Button>
          <Button onClick={drop}>Take away</Button>
        </Group>
      </div>
      <SignatureTrial signature={signature} />
    </section>
  );
}

interface PartProps {
  signature: Signature;
  put: (changes: Partial<Signature>) => void;
}

function Named({ signature, put }: PartProps) {
  return (
    <div className={classes.row}>
      <TextInput
        label="Name"
        w={200}
        value={signature.name}
        onChange={(event) => put({ name: event.currentTarget.value })}
      />
      <TextInput
        label="Known as"
        description="Small letters, digits, hyphens."
        w={160}
        value={signature.tag}
        onChange={(event) => put({ tag: event.currentTarget.value })}
      />
      <NativeSelect
        label="For"
        data={['analytics', 'advertising', 'other']}
        value={signature.purpose}
        onChange={(event) => put({ purpose: event.currentTarget.value as Signature['purpose'] })}
      />
    </div>
  );
}

/** Where its signals go, and where it stands in pages. */
function Places({ signature, put }: PartProps) {
  const wire = signature.wire.filter((one) => one.host).map((one) => `${one.host}${one.path ?? ''}`);
  return (
    <>
      <TagsInput
        label="Where its signals go"
        description="Host and path; a star at the end of the path covers what begins so, *.host all below it."
        value={wire}
        onChange={(all) =>
          put({
            wire: all
              .map(readStanding)
              .filter(isPlace)
              .map(({ host, path }) => (path ? { host, path } : { host })),
          })
        }
      />
      <TagsInput
        label="Where it stands in pages"
        description="The address of its script, with the parameter that holds the account behind ?; or text of its base code in quotes, a star where the account stands."
        splitChars={[]}
        value={signature.markup.map(writtenStanding)}
        onChange={(all) => put({ markup: all.map(readStanding).filter((one) => one !== undefined) })}
      />
    </>
  );
}

/** Where each field stands in a request. */
function Fields({ signature, put }: PartProps) {
  const write = (field: string, text: string) => {
    const { [field]: _, ...rest } = signature.fields;
    const read = readField(text);
    put({ fields: read === undefined ? rest : { ...rest, [field]: read } });
  };
  return (
    <>
      <div className={classes.fields}>
        {FIELDS.map(([field, about]) => (
          <FieldInput
            key={field}
            label={field}
            about={about}
            value={writtenField(signature.fields[field])}
            write={(text) => write(field, text)}
          />
        ))}
      </div>
      <p className={classes.said}>
        A field is the name of a parameter, or a dotted path into JSON; of several by commas the first that is there;
        =text for what is always the same; /2 for the second part of the path.
      </p>
    </>
  );
}

/** What its events mean, and what of it is no signal. */
function Events({ signature, put }: PartProps) {
  const { events } = signature;
  return (
    <>
      <TagsInput
        label="Events that are page views"
        value={events.page_view}
        onChange={(page_view) => put({ events: { ...events, page_view } })}
      />
      <TagsInput
        label="Events that are conversions"
        value={events.conversion}
        onChange={(conversion) => put({ events: { ...events, conversion } })}
      />
      <TextInput
        label="A list of signals"
        description="The dotted path of a list in JSON whose members are signals of their own."
        value={signature.list ?? ''}
        onChange={(event) => put({ list: event.currentTarget.value })}
      />
      <TagsInput
        label="Its functions"
        description="What pages call once the base code stands."
        value={signature.functions ?? []}
        onChange={(functions) => put({ functions })}
      />
      <TagsInput
        label="Parameters that hand its visitor on"
        description="Names of parameters in links between own hosts: where one is missing, a visit becomes two."
        value={signature.handover ?? []}
        onChange={(handover) => put({ handover })}
      />
      <TagsInput
        label="Its own scripts"
        description="Paths on its hosts that are scripts, and no signals."
        value={signature.scripts ?? []}
        onChange={(scripts) => put({ scripts })}
      />
    </>
  );
}

interface FieldInputProps {
  label: string;
  about: string;
  value: string;
  write: (text: string) => void;
}

/** Keeps what is being typed, such as a comma with nothing behind it yet. */
function FieldInput({ label, about, value, write }: FieldInputProps) {
  const [text, setText] = useState(value);
  return (
    <TextInput
      label={label}
      description={about}
      value={text}
      onChange={(event) => {
        setText(event.currentTarget.value);
        write(event.currentTarget.value);
      }}
    />
  );
}

const isPlace = (one: Standing | undefined): one is Extract<Standing, { host: string }> =>
  one !== undefined && 'host' in one;

/** What is empty is left out, as the documents do. */
function lean(signature: Signature): Signature {
  const { list, functions, handover, scripts, ...rest } = signature;
  return {
    ...rest,
    ...(list ? { list } : {}),
    ...(functions?.length ? { functions } : {}),
    ...(handover?.length ? { handover } : {}),
    ...(scripts?.length ? { scripts } : {}),
  };
}

const fileOf = (signature: Signature) =>
  `data:application/json;charset=utf-8,${encodeURIComponent(`${JSON.stringify(signature, null, 2)}\n`)}`;
