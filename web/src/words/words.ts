import i18next from 'i18next';

// The message catalogue of the interface. A message is its British text, with its arguments in
// double braces; what it is in the words of the practice whose job is open stands in one file a
// locale. A test holds that every message is in every file, and no file has one that is gone.

await i18next.init({
  lng: 'en-GB',
  fallbackLng: false,
  resources: {},
  keySeparator: false,
  nsSeparator: false,
  interpolation: { escapeValue: false }, // React escapes
});

// The British catalogue is the messages themselves; the others come when a job first needs them.
const catalogues: Record<string, () => Promise<{ default: Record<string, string> }>> = {
  'en-US': () => import('./en-US.json'),
  'en-CA': () => import('./en-CA.json'),
};

/** Fetches the catalogue of a locale, once. What is spoken in it waits for this. */
export async function learn(locale: string) {
  if (catalogues[locale] && !i18next.hasResourceBundle(locale, 'translation'))
    i18next.addResourceBundle(locale, 'translation', (await catalogues[locale]()).default);
}

let locale = 'en-GB';
let spoken = i18next.getFixedT(locale);

/** The locale that is spoken: that of the practice whose job is open, else the company's. */
export const localeNow = () => locale;

/** Says everything from here on in a locale that was learnt. Whoever calls it draws what is shown anew. */
export function speak(next: string) {
  if (next === locale) return;
  locale = next;
  spoken = i18next.getFixedT(next);
}

// Dates and times of day are written as the company does, and by its clock.
let place = { locale: 'en-GB', timeZone: undefined as string | undefined };

/** Where the company is: how it writes dates, and by which clock. */
export function placeAt(at: string, timeZone: string) {
  place = { locale: at, timeZone };
}

/** A moment as the company writes it: day, month and time of day by its clock. */
export const moment = (iso: string): string =>
  new Intl.DateTimeFormat(place.locale, {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    timeZone: place.timeZone,
  }).format(new Date(iso));

/** Says a message with its arguments. */
export const say = (message: string, args?: Record<string, unknown>): string =>
  args ? spoken(message, { replace: args }) : spoken(message);

/** Marks a message that stands in a table until it is said. */
export const msg = (message: string): string => message;
