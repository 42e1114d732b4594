// A machine that does other work beside the tests draws a screen seconds later than usual; that it is late is no fault.

import { configure } from '@testing-library/react';

configure({ asyncUtilTimeout: 20_000 });
