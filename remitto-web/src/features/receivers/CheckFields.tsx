import type { CallCheck } from '../../api/types';
import { Input, Labelled, Select } from '../../components/ui';
import { begunCheck, CHECKS } from './words';

/** How a call is told to be of the tool that it says. */
export function CheckFields({ check, onChange }: { check: CallCheck; onChange: (check: CallCheck) => void }) {
  return (
    <>
      <Labelled label="Calls are checked by" note={CHECKS.find((one) => one.kind === check.kind)?.note}>
        <Select
          className="w-full"
          value={check.kind}
          onChange={(event) => onChange(begunCheck(event.target.value as CallCheck['kind']))}
        >
          {CHECKS.map((one) => (
            <option key={one.kind} value={one.kind}>
              {one.title}
            </option>
          ))}
        </Select>
      </Labelled>
      {(check.kind === 'hmac' || check.kind === 'shared-secret') && (
        <Labelled label="Header">
          <Input
            className="w-full font-mono"
            value={check.header}
            onChange={(event) => onChange({ ...check, header: event.target.value })}
          />
        </Labelled>
      )}
      {check.kind === 'hmac' && (
        <>
          <div className="grid grid-cols-2 gap-3">
            <Labelled label="Digest">
              <Select
                className="w-full"
                value={check.digest}
                onChange={(event) =>
                  onChange({ ...check, digest: event.target.value as typeof check.digest })
                }
              >
                <option value="SHA256">SHA-256</option>
                <option value="SHA512">SHA-512</option>
                <option value="SHA1">SHA-1</option>
              </Select>
            </Labelled>
            <Labelled label="Written as">
              <Select
                className="w-full"
                value={check.spelling}
                onChange={(event) =>
                  onChange({ ...check, spelling: event.target.value as typeof check.spelling })
                }
              >
                <option value="HEX">hexadecimal</option>
                <option value="BASE64">base64</option>
              </Select>
            </Labelled>
          </div>
          <Labelled label="Text before it" note="Such as sha256=; may be empty.">
            <Input
              className="w-full font-mono"
              value={check.prefix}
              onChange={(event) => onChange({ ...check, prefix: event.target.value })}
            />
          </Labelled>
          <Labelled
            label="Header of the time"
            note="If time, full stop and body are signed together. Empty where the body alone is."
          >
            <Input
              className="w-full font-mono"
              value={check.timeHeader}
              onChange={(event) => onChange({ ...check, timeHeader: event.target.value })}
            />
          </Labelled>
        </>
      )}
      {check.kind === 'basic' && (
        <Labelled label="User">
          <Input
            className="w-full font-mono"
            value={check.user}
            onChange={(event) => onChange({ ...check, user: event.target.value })}
          />
        </Labelled>
      )}
    </>
  );
}
