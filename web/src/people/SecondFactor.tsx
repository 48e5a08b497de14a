import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { acts } from '../api/acts';
import { queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { Failure } from '../parts/Failure';
import { counted } from '../parts/format';
import { Section } from '../parts/Section';
import { CodeField, CurrentPasswordField } from './fields';
import { Once } from './Once';
import classes from './People.module.css';

/** A code from one's device, asked for beside the password. */
export function SecondFactor() {
  const factor = useQuery(queries.secondFactor());
  const [codes, setCodes] = useState<string[]>([]);
  return (
    <Section title="A second factor">
      {factor.isError && <Failure error={factor.error} />}
      {codes.length > 0 && (
        <Once
          said="It is on. Write these recovery codes down: each lets you in once, without your device. They are not shown again."
          text={codes.join('  ')}
          what="the recovery codes"
        />
      )}
      {factor.data?.on && <TurnOff left={factor.data.recovery_codes_left} />}
      {factor.data && !factor.data.on && <TurnOn done={setCodes} />}
    </Section>
  );
}

function TurnOn({ done }: { done: (codes: string[]) => void }) {
  const [password, setPassword] = useState('');
  const [code, setCode] = useState('');
  const begin = useAct('account', () => acts.beginSecondFactor(password));
  const confirm = useAct('account', () => acts.confirmSecondFactor(code));
  if (begin.data) {
    return (
      <div className={classes.form}>
        <p className={classes.said}>Scan this with an app for time codes, or type what stands below it.</p>
        <img
          className={classes.code}
          alt="A code to scan with an app for time codes"
          src={`data:image/svg+xml;utf8,${encodeURIComponent(begin.data.qr)}`}
        />
        <span className={classes.secret}>{begin.data.secret}</span>
        <CodeField value={code} change={setCode} />
        {confirm.isError && <Failure error={confirm.error} />}
        <Button
          disabled={!code.trim()}
          loading={confirm.isPending}
          onClick={() => confirm.mutate(undefined, { onSuccess: ({ recovery_codes }) => done(recovery_codes ?? []) })}
        >
          Turn it on
        </Button>
      </div>
    );
  }
  return (
    <div className={classes.form}>
      <p className={classes.said}>
        Beside the password you type a code that an app on your device shows. An owner can ask everybody in a workspace
        for it.
      </p>
      <CurrentPasswordField label="Your password" value={password} change={setPassword} />
      {begin.isError && <Failure error={begin.error} />}
      <Button disabled={!password} loading={begin.isPending} onClick={() => begin.mutate(undefined)}>
        Set one up
      </Button>
    </div>
  );
}

function TurnOff({ left }: { left: number }) {
  const [password, setPassword] = useState('');
  const [code, setCode] = useState('');
  const off = useAct('account', () => acts.turnSecondFactorOff({ current_password: password, code }));
  return (
    <div className={classes.form}>
      <p className={classes.said}>
        It is on; {counted(left, 'recovery code')} left. To take new ones, turn it off and on.
      </p>
      <CurrentPasswordField label="Your password" value={password} change={setPassword} />
      <CodeField value={code} change={setCode} />
      {off.isError && <Failure error={off.error} />}
      <Button disabled={!password || !code.trim()} loading={off.isPending} onClick={() => off.mutate(undefined)}>
        Turn it off
      </Button>
    </div>
  );
}
