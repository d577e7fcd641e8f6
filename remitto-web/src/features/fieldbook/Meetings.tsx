import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { Ends, FieldMeeting } from '../../api/types';
import { counted } from '../../components/format';
import { Failure, Select } from '../../components/ui';

/** Who else writes a field, in how many records, and whose value wins. */
export function MeetingWords({ meeting, ends }: { meeting: FieldMeeting; ends: Ends }) {
  return (
    <>
      {meeting.others.map((other) => (
        <span key={other.routeId} className="block">
          <Link className="text-deep underline" to={`/routes/${other.routeId}`}>
            {other.route}
          </Link>{' '}
          writes it too{' '}
          {other.records > 0
            ? `(both write ${counted(other.records, 'record')})`
            : `(${counted(other.written, 'record')}, none of which this route writes so far)`}
          : {other.sentence.replace(/\.$/, '')}.
        </span>
      ))}
      <span className="block">
        {meeting.words}{' '}
        <Link className="text-deep underline" to={`/destinations/${ends.destinationId}/${ends.object}`}>
          Field book
        </Link>
      </span>
    </>
  );
}

interface Props {
  routeId: number;
  ends: Ends;
  meetings: FieldMeeting[];
  /** Fields that are left undecided on purpose. */
  left: string[];
  onLeft: (fields: string[]) => void;
}

/** Asks for a settlement of every field that several routes write. */
export function Meetings({ routeId, ends, meetings, left, onLeft }: Props) {
  const client = useQueryClient();
  const path = (field: string) => ({
    params: { path: { id: ends.destinationId, object: ends.object, field } },
  });
  const settle = useMutation({
    mutationFn: ({ field, routes }: { field: string; routes: number[] }) =>
      routes.length === 1
        ? ok(
            api.PUT('/api/destinations/{id}/objects/{object}/book/{field}/owner', {
              ...path(field),
              body: { routeId: routes[0] },
            }),
          )
        : ok(
            api.PUT('/api/destinations/{id}/objects/{object}/book/{field}/order', {
              ...path(field),
              body: { routeIds: routes },
            }),
          ),
    onSuccess: () =>
      Promise.all([
        client.invalidateQueries({ queryKey: ['field-meetings'] }),
        client.invalidateQueries({ queryKey: ['book'] }),
        client.invalidateQueries({ queryKey: ['route-check'] }),
      ]),
  });
  return (
    <section aria-label="Fields that other routes write">
      <h3 className="m-0 mb-1 text-[0.8125rem] font-semibold">Fields that other routes write too</h3>
      <Failure error={settle.error} />
      <ul className="m-0 list-none p-0">
        {meetings.map((meeting) => {
          const others = meeting.others.map((other) => other.routeId);
          const names = meeting.others.map((other) => other.route).join(', then ');
          const choices: [string, number[]][] = [
            ['this route owns the field', [routeId]],
            ...meeting.others.map((other): [string, number[]] => [
              `${other.route} owns the field`,
              [other.routeId],
            ]),
            [`this route first, then ${names}`, [routeId, ...others]],
            [`${names} first, then this route`, [...others, routeId]],
          ];
          return (
            <li key={meeting.field} className="border-hairline border-t py-2">
              <strong className="font-mono">{meeting.field}</strong>
              <div className="text-soft">
                <MeetingWords meeting={meeting} ends={ends} />
              </div>
              {!meeting.settled && (
                <Select
                  aria-label={`Whose value wins in ${meeting.field}`}
                  className="mt-1 max-w-full"
                  disabled={settle.isPending}
                  value={left.includes(meeting.field) ? 'left' : ''}
                  onChange={(e) => {
                    const chosen = choices[Number(e.target.value)];
                    if (e.target.value === 'left') onLeft([...left, meeting.field]);
                    else if (chosen) settle.mutate({ field: meeting.field, routes: chosen[1] });
                  }}
                >
                  <option value="" disabled>
                    Choose whose value wins
                  </option>
                  {choices.map(([words], i) => (
                    <option key={words} value={i}>
                      {words}
                    </option>
                  ))}
                  <option value="left">leave undecided: the run that sends last wins</option>
                </Select>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
