import { Button, Select, TagsInput, Textarea, TextInput } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { Failure } from '../parts/Failure';
import { Section } from '../parts/Section';
import { hostMapOf } from './hostMap';
import classes from './Workspaces.module.css';
import { ZONE_HERE, ZONES } from './zones';

type Look = Schema['SiteLook'];

/** A workspace begins with the address of a site; what can be found out is found out, and may be changed. */
export function NewWorkspaceView() {
  const [search, setSearch] = useSearchParams();
  const [address, setAddress] = useState(search.get('site') ?? '');
  const [map, setMap] = useState('');
  const look = useMutation({ mutationFn: () => acts.lookAtSite({ address, host_map: hostMapOf(map) }) });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setSearch({ site: address }, { replace: true });
    look.mutate();
  };
  return (
    <main className={classes.page}>
      <header className={classes.head}>
        <h1>New workspace</h1>
        <Link to="/">All workspaces</Link>
      </header>
      <form onSubmit={submit} className={classes.form}>
        <TextInput
          label="The site’s address"
          description="Its home page is asked for, with and without www; nothing is kept until you make the workspace."
          placeholder="www.your-site.example"
          value={address}
          onChange={(event) => setAddress(event.currentTarget.value)}
          data-autofocus
        />
        <details>
          <summary>The site stands in your own network</summary>
          <Textarea
            label="Where hosts really are"
            description="One a line: a host and the address and port to ask instead. Without a line here, nothing on this machine or in a private network is ever asked."
            placeholder="*.staging.example 192.168.7.20:8080"
            autosize
            minRows={2}
            value={map}
            onChange={(event) => setMap(event.currentTarget.value)}
          />
        </details>
        <Button type="submit" variant="filled" disabled={address.trim() === ''} loading={look.isPending}>
          Look at the site
        </Button>
      </form>
      {look.isError && <Failure error={look.error} />}
      {look.data && <Found key={look.data.address} look={look.data} map={map} />}
    </main>
  );
}

function Found({ look, map }: { look: Look; map: string }) {
  const navigate = useNavigate();
  const client = useQueryClient();
  const [title, setTitle] = useState(nameOf(look));
  const [hosts, setHosts] = useState(look.own_hosts.map((one) => one.host));
  const [currency, setCurrency] = useState(look.currency ?? 'EUR');
  const [zone, setZone] = useState(ZONE_HERE);
  const [language, setLanguage] = useState(look.language ?? 'en');
  const make = useMutation({
    mutationFn: () =>
      acts.makeWorkspace({
        title,
        own_hosts: hosts,
        currency,
        time_zone: zone,
        language: language.trim(),
        host_map: hostMapOf(map),
      }),
    onSuccess: async (made) => {
      await client.invalidateQueries({ queryKey: ['workspaces'] });
      navigate(`/w/${made.name}/links/import`);
    },
  });
  return (
    <Section title={look.outcome === 'landed' ? `Found: ${look.title || look.address}` : 'Nothing was found there'}>
      {look.reason && <p>{look.reason} You can make the workspace nevertheless and name its hosts yourself.</p>}
      <div className={classes.form}>
        <TextInput label="Name" value={title} onChange={(event) => setTitle(event.currentTarget.value)} />
        <TagsInput
          label="Hosts of its own"
          description="Links to these are judged; *.name covers every host below name."
          value={hosts}
          onChange={setHosts}
          data={look.other_hosts}
        />
        <Why look={look} />
        <TextInput
          label="Currency"
          description={look.currency ? 'As the page says.' : 'The page does not say: three letters.'}
          w={160}
          value={currency}
          onChange={(event) => setCurrency(event.currentTarget.value.toUpperCase())}
        />
        <TextInput
          label="Language"
          description={`${look.language ? 'As the page says.' : 'The page does not say.'} Links are followed and pages opened as by somebody who reads it.`}
          w={160}
          value={language}
          onChange={(event) => setLanguage(event.currentTarget.value)}
        />
        <Select
          label="Time zone"
          description="As this browser says; moments are shown in it."
          searchable
          allowDeselect={false}
          data={ZONES}
          value={zone}
          onChange={(chosen) => setZone(chosen ?? '')}
        />
        <p className={classes.said}>
          Its rules begin as a plain convention: the usual five parameters, lower case, words divided by hyphens. Learn
          vocabularies from the links once some are there, or load a document of your own under Convention.
        </p>
        {make.isError && <Failure error={make.error} />}
        <Button
          variant="filled"
          loading={make.isPending}
          disabled={!title.trim() || hosts.length === 0}
          onClick={() => make.mutate()}
        >
          Make the workspace
        </Button>
      </div>
    </Section>
  );
}

/** What stands before a divider in the title, or the host without www. */
function nameOf(look: Look) {
  const title = (look.title ?? '').split(/\s[-–—|·]\s|:\s/)[0]?.trim() ?? '';
  return title.length > 0 && title.length <= 60
    ? title
    : (URL.parse(look.address)?.hostname ?? '').replace(/^www\./, '');
}

/** Why each host is taken for one of its own. */
function Why({ look }: { look: Look }) {
  return (
    <ul className={classes.why}>
      {look.own_hosts.map((one) => (
        <li key={one.host}>
          <b>{one.host}</b>: {one.why}
        </li>
      ))}
      {look.other_hosts.length > 0 && <li>Also linked, and left out: {look.other_hosts.slice(0, 8).join(', ')}</li>}
    </ul>
  );
}
