// What the tables of machine makers say of this position: the row that holds, its values beside those of the sheet, or that none or
// more than one holds.

import type { ReplacementView, SettingTableView } from '@drive-keep/api';
import { findParameter, type Dictionary } from '@drive-keep/core/dictionary';
import type { ReplacementSheet } from '@drive-keep/core/replace';
import {
  findRow,
  readSettingTable,
  refusedValues,
  type SettingRow,
  type SettingTable,
  type TableFacts,
} from '@drive-keep/core/tables';
import { readTable, showRaw } from '@drive-keep/core/values';
import { Link } from 'react-router';
import { usePosition, usePositionSite, useSettingTables } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { SheetPart } from '../ui/page.tsx';
import { lineOf } from './line-of.ts';
import { useSpeaking } from './saying.tsx';

export function TablesPart({
  view,
  sheet,
  fresh,
  motor,
}: {
  view: ReplacementView;
  sheet: ReplacementSheet;
  fresh: Dictionary;
  motor: TableFacts;
}) {
  const { data: tables } = useSettingTables();
  const { data: position } = usePosition(view.tag);
  const { data: site } = usePositionSite(view.tag);
  const own = (tables ?? []).filter(({ dictionary }) => dictionary.split('@')[0] === fresh.model);
  if (own.length === 0 || !position || !site) return null;
  const nominal = site.supply?.nominalVolts;
  const facts: TableFacts = {
    ...motor,
    ...{ unit: sheet.rating, old_unit: view.old.rating, tag: view.tag, machine: position.machine },
    ...(position.motor === '' ? {} : { motor: position.motor }),
    ...(nominal === undefined ? {} : { supply_v: nominal }),
  };
  return (
    <SheetPart name="Setting tables" state={own.length === 1 ? 'one table' : `${own.length} tables`}>
      {own.map((table) => (
        <OneTable key={table.id} table={table} facts={facts} sheet={sheet} view={view} fresh={fresh} />
      ))}
      <p className="mt-1 text-sm text-soft">
        <Link to="/setting-tables" className="text-plum underline">
          All setting tables
        </Link>
      </p>
    </SheetPart>
  );
}

const parsed = ({ content }: SettingTableView, fresh: Dictionary): SettingTable | undefined => {
  const table = readTable(content);
  const read = table.ok ? readSettingTable(table.value, fresh) : undefined;
  return read?.ok ? read.value : undefined;
};

function OneTable({
  table,
  facts,
  sheet,
  view,
  fresh,
}: {
  table: SettingTableView;
  facts: TableFacts;
  sheet: ReplacementSheet;
  view: ReplacementView;
  fresh: Dictionary;
}) {
  const read = parsed(table, fresh);
  const name = `${table.name}, revision ${table.revision}`;
  if (!read)
    return (
      <p className="text-sm">
        {name}: this version of the {fresh.name} does not have what it names.
      </p>
    );
  const found = findRow(read, facts);
  switch (found.kind) {
    case 'none':
      return <p className="text-sm">{name}: no row holds for this position.</p>;
    case 'several':
      return (
        <p className="border-l-4 border-look bg-look-wash px-2 py-1 text-sm">
          {name}: rows {found.rows.map(({ line }) => line).join(', ')} hold, and nobody chooses among them.
          Correct the table.
        </p>
      );
    case 'unknown':
      return (
        <p className="text-sm">
          {name}: which row holds cannot be told, as {found.keys.join(', ')} is not known of this position.
        </p>
      );
    case 'one':
      return <RowValues name={name} row={found.row} sheet={sheet} view={view} fresh={fresh} />;
  }
}

function RowValues({
  name,
  row,
  sheet,
  view,
  fresh,
}: {
  name: string;
  row: SettingRow;
  sheet: ReplacementSheet;
  view: ReplacementView;
  fresh: Dictionary;
}) {
  const { may, say } = useSpeaking();
  const refused = new Map<string, string>(
    refusedValues(fresh, { rating: sheet.rating, region: view.fresh.region }, row).map(({ code, text }) => [
      code,
      text,
    ]),
  );
  const origin = `${name}, row ${row.line}`;
  return (
    <>
      <p className="text-sm">
        {origin}:{' '}
        <span className="text-soft">
          {Object.entries(row.keys)
            .map(([key, text]) => `${key} ${text}`)
            .join(', ')}
        </span>
      </p>
      <table className="w-full text-left text-sm">
        <tbody>
          {[...row.values].map(([code, raw]) => {
            const parameter = findParameter(fresh, code);
            if (!parameter) return null;
            const wanted = showRaw(parameter.form, raw);
            const line = lineOf(sheet, code);
            const now =
              line?.now.find((each) => each.code === code)?.value ??
              (line?.code === code ? line.value : 'as delivered');
            const same = now === wanted;
            const why = refused.get(code);
            return (
              <tr key={code} className={`border-b border-rule ${same ? '' : 'bg-look-wash'}`}>
                <td className="w-2/5 py-1 pr-4 pl-1">
                  <span className="font-mono">{code}</span> {parameter.name}
                </td>
                <td className="py-1 pr-4">
                  <b className="font-medium">{wanted}</b>
                  {!same && <span className="text-soft"> the sheet has {now}</span>}
                </td>
                <td className="py-1 text-right">
                  {why ??
                    (same
                      ? '✓ the same'
                      : may && (
                          <Button
                            weight="quiet"
                            className="min-h-7"
                            onClick={() =>
                              say('setting', line?.id ?? `new ${code}`, {
                                kind: 'own',
                                values: { [code]: raw },
                                reason: origin,
                              })
                            }
                          >
                            Take it
                          </Button>
                        ))}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </>
  );
}
