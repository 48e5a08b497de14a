/** Time zones by their names; '' is that of whoever looks. */
export const ZONES = [
  { value: '', label: 'That of whoever looks' },
  ...['UTC', ...Intl.supportedValuesOf('timeZone')].map((zone) => ({ value: zone, label: zone })),
];

/** The time zone of this browser. */
export const ZONE_HERE = Intl.DateTimeFormat().resolvedOptions().timeZone;
