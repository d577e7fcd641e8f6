import type { WhatIfJob } from '../../api/types';
import { Button } from '../../components/ui';
import { count } from '../../components/format';

/** How far a what-if question is. */
export function WhatIfProgress({ job, onGiveUp }: { job?: WhatIfJob; onGiveUp: () => void }) {
  return (
    <p className="m-0 flex items-center gap-3 py-2" role="status">
      <span className="text-soft">
        {job && job.rows > 0
          ? `${count(job.rows)} rows compared${job.route ? `, now of ${job.route}` : ''}`
          : 'Reading the rows'}
      </span>
      <Button kind="quiet" onClick={onGiveUp}>
        Cancel
      </Button>
    </p>
  );
}
