// ZIP archives for tests (PKWARE APPNOTE, the parts without encryption and ZIP64): for files that are broken on purpose.

import { crc32, deflateRawSync } from 'node:zlib';

export interface ZipEntry {
  readonly name: string;
  readonly content: Buffer;
}

/** CRC-32 (ISO 3309), where this Node.js has none of its own. */
function checksum(content: Buffer): number {
  if (typeof crc32 === 'function') return crc32(content);
  let crc = 0xffff_ffff;
  for (const byte of content) {
    crc ^= byte;
    for (let bit = 0; bit < 8; bit += 1) crc = (crc >>> 1) ^ (crc & 1 ? 0xedb8_8320 : 0);
  }
  return (crc ^ 0xffff_ffff) >>> 0;
}

export function zipOf(entries: readonly ZipEntry[]): Uint8Array<ArrayBuffer> {
  const parts: Buffer[] = [];
  const directory: Buffer[] = [];
  let offset = 0;
  for (const { name, content } of entries) {
    const packed = deflateRawSync(content);
    const common = Buffer.alloc(26);
    common.writeUInt16LE(20, 0);
    common.writeUInt16LE(8, 4);
    common.writeUInt32LE(checksum(content), 10);
    common.writeUInt32LE(packed.length, 14);
    common.writeUInt32LE(content.length, 18);
    common.writeUInt16LE(name.length, 22);
    const local = Buffer.concat([Buffer.from('PK\u0003\u0004'), common, Buffer.from(name), packed]);
    const tail = Buffer.alloc(14);
    tail.writeUInt32LE(offset, 10);
    directory.push(
      Buffer.concat([Buffer.from('PK\u0001\u0002\u0014\u0000'), common, tail, Buffer.from(name)]),
    );
    parts.push(local);
    offset += local.length;
  }
  const index = Buffer.concat(directory);
  const end = Buffer.alloc(22);
  end.write('PK\u0005\u0006', 0, 'latin1');
  end.writeUInt16LE(entries.length, 8);
  end.writeUInt16LE(entries.length, 10);
  end.writeUInt32LE(index.length, 12);
  end.writeUInt32LE(offset, 16);
  return new Uint8Array(Buffer.concat([...parts, index, end]));
}

/** A spreadsheet whose sheet unfolds to so many megabytes of nothing. */
export function spreadsheetBomb(megabytes: number): Uint8Array<ArrayBuffer> {
  const xml = (text: string) => Buffer.from(`<?xml version="1.0" encoding="UTF-8"?>${text}`);
  const cell = '<row><c t="inlineStr"><is><t>x</t></is></c></row>';
  const rows = Buffer.alloc(megabytes * 1_000_000, cell);
  return zipOf([
    {
      name: '[Content_Types].xml',
      content: xml(
        '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="xml" ContentType="application/xml"/></Types>',
      ),
    },
    {
      name: 'xl/workbook.xml',
      content: xml(
        '<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="A" sheetId="1" r:id="rId1"/></sheets></workbook>',
      ),
    },
    {
      name: 'xl/_rels/workbook.xml.rels',
      content: xml(
        '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/></Relationships>',
      ),
    },
    {
      name: 'xl/worksheets/sheet1.xml',
      content: Buffer.concat([
        xml('<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>'),
        rows,
        Buffer.from('</sheetData></worksheet>'),
      ]),
    },
  ]);
}
