/** A convention as its document has it (docs/schemas/convention.schema.json). */
export interface ConventionDocument {
  name: string;
  note?: string;
  own_hosts: string[];
  relay_hosts?: string[];
  payment_hosts?: string[];
  billed_hosts?: string[];
  exempt_kinds?: string[];
  roles: Role[];
  pairs?: { source: string; medium: string; kinds?: string[] }[];
  channels: ChannelRule[];
  dialects?: Dialect[];
}

export interface Role {
  role: string;
  carriers: string[];
  required?: 'always' | 'paid' | 'never';
  case?: 'lower' | 'upper' | 'any';
  separator?: string;
  free_text?: boolean;
  meaning?: string;
  vocabulary?: { closed?: boolean; values: { value: string; aliases?: string[]; meaning?: string; owner?: string }[] };
}

export interface ChannelRule {
  channel: string;
  paid?: boolean;
  when: { field: string; is?: string[]; starts?: string[]; contains?: string[]; empty?: boolean }[];
}

export interface Dialect {
  network: string;
  open: string;
  close: string;
  tokens?: { token: string; meaning?: string; sample?: string }[];
}
