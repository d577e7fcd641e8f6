import type { FileFormat } from '../../api/types';
import { Input, Labelled, Select } from '../../components/ui';

const DELIMITERS = [
  [',', 'comma'],
  [';', 'semicolon'],
  ['\t', 'tab'],
  ['|', 'vertical bar'],
] as const;

const ENCODINGS = [
  'UTF-8',
  'windows-1252',
  'ISO-8859-1',
  'ISO-8859-15',
  'UTF-16',
  'windows-1250',
  'windows-1251',
  'ISO-8859-2',
  'ISO-8859-7',
  'KOI8-R',
  'Shift_JIS',
  'EUC-JP',
  'EUC-KR',
  'Big5',
  'GB18030',
  'IBM850',
];

/** How the rows of files are spelled, to be corrected by hand. */
export function FormatFields({
  format,
  onChange,
}: {
  format: FileFormat;
  onChange: (format: FileFormat) => void;
}) {
  const kinds = (
    <Labelled label="Kind">
      <Select
        className="w-full"
        value={format.kind}
        onChange={(event) => onChange(begun(event.target.value as FileFormat['kind']))}
      >
        <option value="delimited">delimited values</option>
        <option value="json-lines">JSON Lines</option>
        <option value="json-array">JSON array</option>
        <option value="xlsx">XLSX workbook</option>
      </Select>
    </Labelled>
  );
  if (format.kind === 'xlsx')
    return (
      <div className="grid grid-cols-2 gap-3">
        {kinds}
        <Labelled label="Sheet">
          <Input
            className="w-full"
            placeholder="the first sheet"
            value={format.sheet}
            onChange={(event) => onChange({ ...format, sheet: event.target.value })}
          />
        </Labelled>
        <FirstRows value={format} onChange={(part) => onChange({ ...format, ...part })} of="Rows to skip" />
      </div>
    );
  if (format.kind !== 'delimited') return <div className="grid grid-cols-2 gap-3">{kinds}</div>;
  const set = (part: Partial<typeof format>) => onChange({ ...format, ...part });
  return (
    <div className="grid grid-cols-2 gap-3">
      {kinds}
      <Labelled label="Delimiter">
        <Select
          className="w-full"
          value={format.delimiter}
          onChange={(event) => set({ delimiter: event.target.value })}
        >
          {DELIMITERS.map(([value, title]) => (
            <option key={value} value={value}>
              {title}
            </option>
          ))}
          {!DELIMITERS.some(([value]) => value === format.delimiter) && (
            <option value={format.delimiter}>{format.delimiter}</option>
          )}
        </Select>
      </Labelled>
      <Labelled label="Encoding">
        <Select
          className="w-full"
          value={format.encoding}
          onChange={(event) => set({ encoding: event.target.value })}
        >
          {[...new Set([format.encoding, ...ENCODINGS])].map((one) => (
            <option key={one}>{one}</option>
          ))}
        </Select>
      </Labelled>
      <Labelled label="Quotes">
        <Select
          className="w-full"
          value={format.quote}
          onChange={(event) => set({ quote: event.target.value })}
        >
          <option value={'"'}>double quotes</option>
          <option value="'">apostrophes</option>
          <option value="">none</option>
        </Select>
      </Labelled>
      <FirstRows value={format} onChange={set} of="Lines to skip" />
    </div>
  );
}

/** What stands above the rows. */
function FirstRows({
  value,
  onChange,
  of,
}: {
  value: { skippedLines: number; header: boolean };
  onChange: (part: { skippedLines?: number; header?: boolean }) => void;
  of: string;
}) {
  return (
    <>
      <Labelled label={of}>
        <Input
          className="w-full"
          type="number"
          min={0}
          max={1000}
          value={value.skippedLines}
          onChange={(event) => onChange({ skippedLines: Number(event.target.value) || 0 })}
        />
      </Labelled>
      <Labelled label="First row">
        <Select
          className="w-full"
          value={value.header ? 'names' : 'values'}
          onChange={(event) => onChange({ header: event.target.value === 'names' })}
        >
          <option value="names">column names</option>
          <option value="values">a row</option>
        </Select>
      </Labelled>
    </>
  );
}

function begun(kind: FileFormat['kind']): FileFormat {
  switch (kind) {
    case 'delimited':
      return { kind, delimiter: ',', quote: '"', encoding: 'UTF-8', skippedLines: 0, header: true };
    case 'xlsx':
      return { kind, sheet: '', skippedLines: 0, header: true };
    default:
      return { kind };
  }
}
