import '@testing-library/jest-dom/vitest';
import { cleanup, configure } from '@testing-library/react';
import { afterEach } from 'vitest';

// What is waited for ends the waiting; the second that is the default is too short on a busy machine.
configure({ asyncUtilTimeout: 20_000 });

afterEach(cleanup);
