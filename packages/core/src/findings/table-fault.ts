// What is wrong with a table as a whole, in one way for every importer.

import type { TableFault } from '../values/index.ts';
import { finding, type Finding } from './finding.ts';

export function tableFinding(fault: TableFault): Finding {
  switch (fault.code) {
    case 'table-empty':
      return finding('stop', { line: 1 }, 'table-empty', {});
    case 'table-broken':
      return finding('stop', { line: fault.line }, 'quotation-open', {});
    case 'table-surplus':
      return finding('stop', { line: fault.line }, 'table-surplus', { text: fault.text });
    case 'table-column-twice':
      return finding('stop', { line: 1 }, 'column-twice', { column: fault.column });
    case 'json-odd':
      return finding('stop', { line: fault.line }, 'json-odd', { text: fault.text });
  }
}
