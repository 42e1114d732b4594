import { execFileSync } from 'node:child_process';
import { X509Certificate } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { request, type RequestOptions } from 'node:https';
import type { AddressInfo } from 'node:net';
import type { Server } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { INestApplication } from '@nestjs/common';
import { Access } from '../access/access.service.ts';
import { createApplication } from '../application.ts';
import { privateDatabase, type PrivateDatabase } from '../testing/private-postgres.ts';
import { MODELS_FOLDER } from '../testing/running-plant.ts';
import {
  CertificateError,
  fingerprintOf,
  givenCertificate,
  localCertificate,
  type Https,
} from './certificate.ts';

const folder = mkdtempSync(join(tmpdir(), 'drive-keep-https-'));
const file = (name: string): string => join(folder, name);
let https: Https;

beforeAll(async () => {
  https = await localCertificate(file('local'), ['drives.plant.local']);
});
afterAll(() => rmSync(folder, { recursive: true }));

describe('a certificate of the local authority', () => {
  it('names the machine and is kept, until it runs out or the machine has another name', async () => {
    const { subjectAltName } = new X509Certificate(https.cert);
    expect(subjectAltName).toContain('DNS:drives.plant.local');
    expect(subjectAltName).toContain('IP Address:127.0.0.1');
    expect(await localCertificate(file('local'), ['drives.plant.local'])).toEqual(https);
    const renamed = await localCertificate(file('local'), ['other.plant.local']);
    expect(renamed.cert).not.toBe(https.cert);
    expect(renamed.authority).toBe(https.authority);
    const year = new Date(Date.now() + 380 * 86_400_000);
    const later = await localCertificate(file('local'), ['other.plant.local'], year);
    expect(new Date(new X509Certificate(later.cert).validTo).getTime()).toBeGreaterThan(year.getTime());
    expect(later.authority).toBe(https.authority);
  });

  it('is one that others accept, with a key that nobody else may read', () => {
    writeFileSync(file('ca.pem'), https.authority ?? '');
    writeFileSync(file('leaf.pem'), https.cert);
    const told = execFileSync('openssl', ['verify', '-CAfile', file('ca.pem'), file('leaf.pem')], {
      encoding: 'utf8',
    });
    expect(told).toContain(': OK');
    expect(statSync(join(file('local'), 'authority.key')).mode & 0o077).toBe(0);
    expect(fingerprintOf(https.authority ?? '')).toMatch(/^([0-9A-F]{2}:){31}[0-9A-F]{2}$/);
  });
});

describe('a certificate of the plant’s own', () => {
  it('is taken with the key that belongs to it', () => {
    writeFileSync(file('own.crt'), https.cert);
    writeFileSync(file('own.key'), https.key);
    expect(givenCertificate(file('own.crt'), file('own.key'))).toMatchObject({ authority: null });
  });

  it('is refused with a sentence where something is wrong with it', async () => {
    const { key } = await localCertificate(file('other'));
    writeFileSync(file('other.key'), key);
    writeFileSync(file('none.key'), 'no key');
    const wrong = (cert: string, keyFile: string, now?: Date): string => {
      try {
        givenCertificate(file(cert), file(keyFile), now);
        return 'taken';
      } catch (error) {
        expect(error).toBeInstanceOf(CertificateError);
        return (error as Error).message;
      }
    };
    expect(wrong('own.crt', 'other.key')).toMatch(/do not belong together/);
    expect(wrong('own.crt', 'none.key')).toMatch(/no private key in PEM/);
    expect(wrong('own.key', 'own.key')).toMatch(/no certificate in PEM/);
    expect(wrong('nowhere.crt', 'own.key')).toMatch(/--cert: .* cannot be read/);
    expect(wrong('own.crt', 'own.key', new Date(Date.now() + 500 * 86_400_000))).toMatch(/ran out/);
  });
});

interface Answered {
  readonly status: number;
  readonly cookies: readonly string[];
  readonly body: string;
}

describe('over https', () => {
  let database: PrivateDatabase;
  let app: INestApplication;
  let port: number;

  beforeAll(async () => {
    database = await privateDatabase();
    const options = { databaseUrl: database.url, modelsFolder: MODELS_FOLDER, quiet: true };
    app = await createApplication({ ...options, https, trustedProxy: '127.0.0.9' });
    const account = {
      person: 'E',
      signInName: 'engineer',
      role: 'engineer' as const,
      mustChangePassword: false,
    };
    await app.get(Access).createAccount({ ...account, password: 'roller-and-glaze' });
    await app.listen(0, '127.0.0.1');
    port = ((app.getHttpServer() as Server).address() as AddressInfo).port;
  });
  afterAll(async () => {
    await app.close();
    await database.drop();
  });

  function ask(
    path: string,
    body?: object,
    headers: Readonly<Record<string, string>> = {},
  ): Promise<Answered> {
    const text = body ? JSON.stringify(body) : '';
    const wanted: RequestOptions = {
      ...{ host: '127.0.0.1', port, path, servername: 'drives.plant.local' },
      ...{ ca: https.authority ?? '', method: body ? 'POST' : 'GET' },
      headers: {
        ...(body ? { 'content-type': 'application/json', 'content-length': text.length } : {}),
        ...headers,
      },
    };
    return new Promise((resolve, reject) => {
      const sent = request(wanted, (response) => {
        let all = '';
        response.on('data', (chunk: Buffer) => (all += chunk.toString()));
        response.on('end', () =>
          resolve({
            status: response.statusCode ?? 0,
            cookies: response.headers['set-cookie'] ?? [],
            body: all,
          }),
        );
      });
      sent.on('error', reject);
      sent.end(text);
    });
  }

  it('whoever trusts the authority gets in, with a cookie that never goes over plain http', async () => {
    const signIn = await ask('/api/session', { name: 'engineer', password: 'roller-and-glaze' });
    expect(signIn.status).toBe(200);
    expect(signIn.cookies.every((cookie) => /; Secure/.test(cookie))).toBe(true);
  });

  it('the certificate of the authority is there for the phones, and never its key', async () => {
    const { body } = await ask('/api/authority/certificate');
    expect(body).toBe(https.authority);
    expect(JSON.parse((await ask('/api/authority')).body)).toMatchObject({
      fingerprint: fingerprintOf(https.authority ?? ''),
    });
    expect(body).not.toContain('PRIVATE KEY');
    expect(readFileSync(join(file('local'), 'authority.key'), 'utf8')).toContain('PRIVATE KEY');
  });

  it('a page of another address is turned away, whatever it says was forwarded', async () => {
    const forwarded = { origin: 'https://elsewhere.example', 'x-forwarded-host': 'elsewhere.example' };
    const { status } = await ask(
      '/api/session',
      { name: 'engineer', password: 'roller-and-glaze' },
      forwarded,
    );
    expect(status).toBe(403);
  });
});
