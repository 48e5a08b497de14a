const whole = new Intl.NumberFormat('en-GB');
const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });
const momentIn = (timeZone?: string) =>
  new Intl.DateTimeFormat('en-GB', {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    ...(timeZone ? { timeZone } : {}),
  });
let moment = momentIn();

/** Shows moments from now on in a time zone; '' is that of whoever looks. */
export const showIn = (timeZone: string) => {
  moment = momentIn(timeZone);
};

/** A count, with separators. */
export const count = (number: number) => whole.format(number);

/** A count with its noun: "1 link", "412 links". */
export const counted = (number: number, noun: string, plural = `${noun}s`) =>
  `${count(number)} ${number === 1 ? noun : plural}`;

/** A length of time, roughly: "1 second", "40 seconds", "3 minutes". */
export const lasting = (seconds: number) =>
  seconds < 90 ? counted(Math.max(Math.round(seconds), 1), 'second') : counted(Math.round(seconds / 60), 'minute');

/** What there is of something, and all of it: "the only fix", "all 12 fixes", "3 of 12 fixes". */
export const ofAll = (part: number, all: number, noun: string, plural = `${noun}s`) => {
  if (part === all) {
    return all === 1 ? `the only ${noun}` : `all ${counted(all, noun, plural)}`;
  }
  return `${count(part)} of ${counted(all, noun, plural)}`;
};

/** Cents as an amount of money, without the cents where they tell nothing. */
export const money = (cents: number, currency: string) =>
  new Intl.NumberFormat('en-GB', { style: 'currency', currency, maximumFractionDigits: cents % 100 ? 2 : 0 }).format(
    cents / 100,
  );

/** A share of one as per cent. */
export const percent = (share: number) => `${(share * 100).toFixed(share < 0.1 ? 1 : 0)} %`;

/** A day, or a dash. */
export const onDay = (text: string | null | undefined) => (text ? day.format(new Date(text)) : '–');

/** A moment, or "never". */
export const atMoment = (text: string | null | undefined) => (text ? moment.format(new Date(text)) : 'never');
