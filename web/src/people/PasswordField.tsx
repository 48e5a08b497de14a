import { PasswordInput } from '@mantine/core';

interface PasswordFieldProps {
  label: string;
  value: string;
  change: (password: string) => void;
}

/** Where a new password is thought up. */
export function PasswordField({ label, value, change }: PasswordFieldProps) {
  return (
    <PasswordInput
      label={label}
      description="Twelve characters or more; three or four words that nobody would put together are best."
      autoComplete="new-password"
      value={value}
      onChange={(event) => change(event.currentTarget.value)}
    />
  );
}
