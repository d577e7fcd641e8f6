import type { PeopleRulesView } from '../../api/types';
import { counted } from '../../components/format';
import { Ago } from '../../components/Moment';

/** From what weights were estimated, and when. */
export function Estimated({ view }: { view: PeopleRulesView }) {
  return view.estimatedAt ? (
    <>
      estimated from {counted(view.estimatedFrom, 'record')} <Ago at={view.estimatedAt} />
    </>
  ) : (
    <>to be estimated the next time matching runs</>
  );
}
