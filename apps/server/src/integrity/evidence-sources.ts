// Which rows count as evidence, and which of their columns a link of the chain stands for. A column that comes later gets a
// new form; what was linked by an older one is checked by that.

export const FORM = 1;

export interface EvidenceSource {
  readonly table: string;
  /** Names a row. */
  readonly key: string;
  readonly columns: readonly string[];
  /** Which rows count, in SQL; all where it is not said. */
  readonly where?: string;
  /** A row in words, for whoever has to look after it. */
  readonly name: (key: string) => string;
}

export const EVIDENCE: readonly EvidenceSource[] = [
  {
    table: 'dictionary',
    key: 'id',
    columns: [
      ...['id', 'model', 'version', 'maker', 'name', 'model_file', 'parameters_file', 'terminals_file'],
      ...['files_hash', 'imported_by', 'imported_at'],
    ],
    name: (key) => `the dictionary ${key}`,
  },
  {
    table: 'set_content',
    key: 'hash',
    // The content proves itself by its hash, however it is packed.
    columns: ['hash', 'dictionary_id'],
    name: (key) => `the content ${key.slice(0, 19)}…`,
  },
  {
    table: 'backup',
    key: 'seq',
    columns: [
      ...['id', 'seq', 'position_id', 'unit_id', 'content_hash', 'taken_at', 'taken_by', 'how', 'reason'],
      ...['serial', 'firmware', 'unreadable', 'aside'],
    ],
    name: (key) => `backup number ${key}`,
  },
  {
    table: 'found_list',
    key: 'id',
    columns: ['id', 'seqs'],
    name: (key) => `list ${key} of backups that were found again`,
  },
  {
    table: 'found_again',
    key: 'id',
    columns: ['id', 'list_id', 'at', 'taken_by', 'reason'],
    name: (key) => `look ${key} that found backups again`,
  },
  {
    table: 'baseline',
    key: 'id',
    columns: [
      ...['id', 'position_id', 'revision', 'content_hash', 'signed_at', 'signed_by', 'reason'],
      ...['dictionary_hash', 'before', 'signature'],
    ],
    name: (key) => `the baseline ${key}`,
  },
  {
    table: 'trace',
    key: 'id',
    where: `state = 'kept'`,
    // The samples prove themselves by the hash.
    columns: [
      ...[
        'id',
        'position_id',
        'dictionary_id',
        'serial',
        'title',
        'signals',
        'every_ms',
        'seconds',
        'settings',
      ],
      ...['state', 'began_at', 'began_by', 'stop_requested', 'last_piece_at', 'ended_at', 'ended_why'],
      ...['markers', 'count', 'hash'],
    ],
    name: (key) => `the trace ${key}`,
  },
  {
    table: 'proof_run',
    key: 'id',
    columns: [
      ...['id', 'position_id', 'unit_id', 'serial', 'dictionary_id', 'set_hash', 'set_title', 'set_at'],
      ...['wiring_revision', 'scope', 'since', 'why', 'plan', 'left_out', 'started_by', 'started_at'],
    ],
    name: (key) => `the proof run ${key}`,
  },
  {
    table: 'proof_evidence',
    key: 'id',
    columns: [
      ...['id', 'run_id', 'step', 'state', 'stage', 'text', 'likely', 'figures', 'readings'],
      ...['began_at', 'ended_at', 'taken_by'],
    ],
    name: (key) => `the evidence ${key} of a proof run`,
  },
  {
    table: 'proof_saying',
    key: 'id',
    columns: ['id', 'run_id', 'step', 'verdict', 'seen', 'evidence_id', 'said_by', 'said_at', 'told_at'],
    name: (key) => `word ${key} of a proof run`,
  },
  {
    table: 'proof_end',
    key: 'run_id',
    columns: [
      ...['run_id', 'state', 'why', 'passed', 'failed', 'not_done', 'record', 'hash', 'ended_by', 'ended_at'],
    ],
    name: (key) => `the end of the proof run ${key}`,
  },
  {
    table: 'logbook',
    key: 'id',
    columns: ['id', 'at', 'person', 'action', 'tag', 'text', 'facts'],
    name: (key) => `entry ${key} of the logbook`,
  },
];

export const sourceOf = (table: string): EvidenceSource | undefined =>
  EVIDENCE.find((each) => each.table === table);
