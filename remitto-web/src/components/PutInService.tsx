import type { UseMutationResult } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Editors } from '../features/session/Editors';
import { ApiProblem } from '../api/client';
import { AskFirst } from './AskFirst';
import { Button } from './ui';

interface Props {
  /** The latest version, which is not in service. */
  version: number;
  /** The version in service, if any. */
  live?: number;
  act: Pick<UseMutationResult<unknown, Error, void>, 'mutate' | 'isPending' | 'error' | 'reset'>;
  /** What has to be decided first; empty when nothing has. */
  blocked?: string;
  /** What can be done where somebody else has to put it in service. */
  approver?: ReactNode;
  /** What goes live: the differences, and what they concern. */
  children?: ReactNode;
}

/** Puts a saved version in service, after showing what goes live. */
export function PutInService({ version, live, act, blocked = '', approver, children }: Props) {
  return (
    <Editors>
      <AskFirst
        wide
        trigger={<Button kind="primary">Put version {version} in service</Button>}
        title={`Put version ${version} in service`}
        act="Put in service"
        pending={act.isPending}
        error={act.error}
        onAct={() => act.mutate()}
        onOpenChange={() => act.reset()}
        detail={children}
        aside={act.error instanceof ApiProblem && act.error.isForApprover && approver}
        blocked={blocked}
      >
        {live === undefined || live === 0
          ? 'No version is in service yet.'
          : `It takes the place of version ${live}, which stays among the versions.`}
      </AskFirst>
    </Editors>
  );
}
