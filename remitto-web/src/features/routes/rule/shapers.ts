import type { Shaper } from '../../../api/types';
import { COUNTRY, zone } from '../../../components/here';

type Kind = Shaper['kind'];
type Settings<K extends Kind> = Omit<Extract<Shaper, { kind: K }>, 'kind'>;

/** How one setting of a shaper is edited. */
export type Setting =
  | { name: string; label: string; as: 'text' | 'number' | 'flag' | 'words'; hint?: string }
  | { name: string; label: string; as: 'column'; none: string }
  | { name: string; label: string; as: 'crosswalk' | 'key' }
  | { name: string; label: string; as: 'choice'; options: Record<string, string> };

interface Described<K extends Kind> {
  label: string;
  fresh: Settings<K>;
  settings: Setting[];
}

const ZONE: Setting = { name: 'zone', label: 'Zone', as: 'text' };
const SPELLED: Setting = { name: 'pattern', label: 'Spelled', as: 'text', hint: 'ISO 8601' };

/** Every shaper with its settings, in the order they are offered. */
export const SHAPERS: { [K in Kind]: Described<K> } = {
  trim: { label: 'trim', fresh: {}, settings: [] },
  spaces: { label: 'single spaces', fresh: {}, settings: [] },
  lower: { label: 'lower case', fresh: {}, settings: [] },
  upper: { label: 'upper case', fresh: {}, settings: [] },
  title: { label: 'title case', fresh: {}, settings: [] },
  unicode: {
    label: 'Unicode form',
    fresh: { form: 'NFC' },
    settings: [
      {
        name: 'form',
        label: 'Form',
        as: 'choice',
        options: { NFC: 'NFC', NFD: 'NFD', NFKC: 'NFKC', NFKD: 'NFKD' },
      },
    ],
  },
  latin: {
    label: 'Latin letters',
    fresh: { plain: false },
    settings: [{ name: 'plain', label: 'without marks', as: 'flag' }],
  },
  truncate: {
    label: 'at most',
    fresh: { length: 60 },
    settings: [{ name: 'length', label: 'characters', as: 'number' }],
  },
  email: {
    label: 'normalise e-mail',
    fresh: { withoutTag: false },
    settings: [{ name: 'withoutTag', label: 'drop the +tag', as: 'flag' }],
  },
  e164: {
    label: 'E.164 phone',
    fresh: { country: COUNTRY, countryColumn: '' },
    settings: [
      { name: 'country', label: 'Country', as: 'text' },
      { name: 'countryColumn', label: 'Column with the country', as: 'column', none: 'always' },
    ],
  },
  country: {
    label: 'country',
    fresh: { to: 'ALPHA2' },
    settings: [
      {
        name: 'to',
        label: 'as',
        as: 'choice',
        options: { ALPHA2: 'two letters', ALPHA3: 'three letters', ENGLISH_NAME: 'English name' },
      },
    ],
  },
  currency: { label: 'currency code', fresh: {}, settings: [] },
  language: { label: 'language code', fresh: {}, settings: [] },
  number: {
    label: 'read a number',
    fresh: { decimalComma: true },
    settings: [{ name: 'decimalComma', label: 'decimal comma', as: 'flag' }],
  },
  round: {
    label: 'round',
    fresh: { digits: 2 },
    settings: [{ name: 'digits', label: 'digits', as: 'number' }],
  },
  date: { label: 'date', fresh: { pattern: '', zone: zone() }, settings: [SPELLED, ZONE] },
  moment: { label: 'date and time', fresh: { pattern: '', zone: zone() }, settings: [SPELLED, ZONE] },
  spell: {
    label: 'spell a time',
    fresh: { pattern: 'd MMM uuuu', zone: zone(), language: 'en' },
    settings: [SPELLED, ZONE, { name: 'language', label: 'Language', as: 'text' }],
  },
  yesno: {
    label: 'yes or no',
    fresh: { yes: ['yes', 'ja', 'y', '1'], no: ['no', 'nei', 'n', '0'] },
    settings: [
      { name: 'yes', label: 'yes is', as: 'words' },
      { name: 'no', label: 'no is', as: 'words' },
    ],
  },
  crosswalk: {
    label: 'crosswalk',
    fresh: { crosswalk: 0, otherwise: 'UNUSABLE', text: '' },
    settings: [
      { name: 'crosswalk', label: 'Table', as: 'crosswalk' },
      {
        name: 'otherwise',
        label: 'unmapped value',
        as: 'choice',
        options: {
          UNUSABLE: 'treat as invalid',
          AS_IT_IS: 'stays as it is',
          EMPTY: 'treat as empty',
          DEFAULT: 'becomes',
        },
      },
      { name: 'text', label: 'becomes', as: 'text' },
    ],
  },
  split: {
    label: 'split a list',
    fresh: { separator: ';' },
    settings: [{ name: 'separator', label: 'at', as: 'text' }],
  },
  join: {
    label: 'join a list',
    fresh: { separator: ', ' },
    settings: [{ name: 'separator', label: 'with', as: 'text' }],
  },
  json: { label: 'JSON', fresh: {}, settings: [] },
  rows: {
    label: 'format each row as',
    fresh: { pattern: '' },
    settings: [{ name: 'pattern', label: 'column names in braces', as: 'text' }],
  },
  mask: {
    label: 'mask',
    fresh: { keep: 2 },
    settings: [{ name: 'keep', label: 'except the last', as: 'number' }],
  },
  sha256: { label: 'SHA-256', fresh: {}, settings: [] },
  keyedhash: {
    label: 'keyed hash',
    fresh: { key: '' },
    settings: [{ name: 'key', label: 'Key', as: 'key' }],
  },
};

export const KINDS = Object.keys(SHAPERS) as Kind[];

/** A column that tells the country, by its name. */
const COUNTRY_COLUMN = /^(country|land|nation)(_?(code|iso\d?|alpha\d?))?$|_country(_code)?$/i;

/** @param columns of the dataset: what depends on a country reads it from its column where there is one */
export function freshShaper(kind: Kind, columns: { name: string }[]): Shaper {
  const country = columns.find((column) => COUNTRY_COLUMN.test(column.name))?.name;
  const told = kind === 'e164' && country ? { countryColumn: country } : {};
  return { kind, ...SHAPERS[kind].fresh, ...told } as Shaper;
}

/** The shaper as a few words, with its settings. */
export function shaperName(shaper: Shaper): string {
  switch (shaper.kind) {
    case 'e164':
      return `E.164, ${shaper.countryColumn ? `country in ${shaper.countryColumn}` : shaper.country}`;
    case 'date':
    case 'moment':
    case 'spell':
      return `${SHAPERS[shaper.kind].label}${shaper.pattern ? ` ${shaper.pattern}` : ''}`;
    case 'truncate':
      return `at most ${shaper.length}`;
    case 'unicode':
      return shaper.form;
    case 'country':
      return { ALPHA2: 'country code', ALPHA3: 'country, three letters', ENGLISH_NAME: 'country name' }[
        shaper.to
      ];
    case 'mask':
      return `mask but ${shaper.keep}`;
    case 'round':
      return `round to ${shaper.digits}`;
    default:
      return SHAPERS[shaper.kind].label;
  }
}
