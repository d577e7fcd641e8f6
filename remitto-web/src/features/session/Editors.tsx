import type { ComponentProps, ReactNode } from 'react';
import { Button, ButtonLink } from '../../components/ui';
import { useIsEditor } from './useSession';

/** What only somebody who may change things is shown. */
export function Editors({ children }: { children: ReactNode }) {
  return useIsEditor() ? children : null;
}

/** A button that changes something, or asks another system: whoever may only look does not see it. */
export function Act(props: ComponentProps<typeof Button>) {
  return (
    <Editors>
      <Button {...props} />
    </Editors>
  );
}

/** A way to a page where something is made. */
export function ActLink(props: ComponentProps<typeof ButtonLink>) {
  return (
    <Editors>
      <ButtonLink {...props} />
    </Editors>
  );
}

/** Controls that are shown to everybody and taken from whoever may change things. */
export function Editable({ children }: { children: ReactNode }) {
  return (
    <fieldset disabled={!useIsEditor()} className="m-0 min-w-0 border-0 p-0">
      {children}
    </fieldset>
  );
}
