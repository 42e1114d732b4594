// Photographs beside the wiring of a position: how it looked when somebody stood before it. A photograph is never changed;
// it can be withdrawn, with a reason, and is not shown from then on.

import { createHash } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { WiringPhotoView } from '@drive-keep/api';
import { DataSource, IsNull } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import type { UploadedFile } from '../file-content/uploaded-file.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { Register } from '../register/register.service.ts';
import { Clock } from '../storage/clock.ts';
import { isUuid } from '../storage/uuid.ts';
import { encodePhoto } from './encode-photo.ts';
import { Wirings } from './wirings.service.ts';
import { WiringPhoto } from './wiring-photo.entity.ts';

/** Of one position. */
const MOST_PHOTOS = 40;

@Injectable()
export class WiringPhotos {
  constructor(
    private readonly dataSource: DataSource,
    private readonly register: Register,
    private readonly wirings: Wirings,
    private readonly logbook: Logbook,
    private readonly clock: Clock,
  ) {}

  /** The newest first. */
  async list(tag: string): Promise<readonly WiringPhotoView[]> {
    const { position } = await this.register.unitAt(tag);
    const photos = await this.dataSource.getRepository(WiringPhoto).find({
      where: { positionId: position.id, withdrawnAt: IsNull() },
      order: { addedAt: 'DESC' },
    });
    return photos.map(({ id, revision, caption, width, height, addedAt, addedBy }) => ({
      ...{ id, revision, caption, width, height, addedBy },
      addedAt: addedAt.toISOString(),
    }));
  }

  async add(
    tag: string,
    file: UploadedFile,
    caption: string,
    { person }: Account,
  ): Promise<readonly WiringPhotoView[]> {
    const { position } = await this.register.unitAt(tag);
    if (position.retiredAt)
      throw new ProblemException(422, 'retired', `${tag} is retired: its wiring stays as it was kept.`);
    const encoded = await encodePhoto(file.buffer);
    await this.dataSource.transaction(async (manager) => {
      await manager.query('select pg_advisory_xact_lock(hashtextextended($1, 0))', [`photos ${position.id}`]);
      const hash = hashOf(encoded.content);
      const there = await manager.find(WiringPhoto, {
        where: { positionId: position.id, withdrawnAt: IsNull() },
      });
      if (there.some((each) => each.hash === hash))
        throw new ProblemException(422, 'photo', `${tag} has this photograph already. Nothing was kept.`);
      if (there.length >= MOST_PHOTOS)
        throw new ProblemException(
          422,
          'photo',
          `${tag} has ${MOST_PHOTOS} photographs. Withdraw one that is no longer true first. Nothing was kept.`,
        );
      const revision = (await this.wirings.newestRevision(position.id)) ?? 0;
      const added = { addedAt: this.clock.now(), addedBy: person };
      await manager.insert(WiringPhoto, {
        ...encoded,
        ...added,
        ...{ positionId: position.id, revision, caption, hash },
      });
      const text = `Added a photograph of the wiring: ${caption}`;
      await this.logbook.write({ person, action: 'wiring-photo-added', tag, text }, manager);
    });
    return this.list(tag);
  }

  async content(tag: string, id: string): Promise<Buffer> {
    const photo = await this.inForce(tag, id);
    if (hashOf(photo.content) === photo.hash) return photo.content;
    throw new ProblemException(
      500,
      'photo-damaged',
      `This photograph of ${tag} is damaged: it is not what was kept. Restore a copy of the database.`,
    );
  }

  async withdraw(
    tag: string,
    id: string,
    why: string,
    { person }: Account,
  ): Promise<readonly WiringPhotoView[]> {
    const { caption } = await this.inForce(tag, id);
    await this.dataSource.transaction(async (manager) => {
      const { affected } = await manager.update(
        WiringPhoto,
        { id, withdrawnAt: IsNull() },
        { withdrawnAt: this.clock.now(), withdrawnBy: person, withdrawnWhy: why },
      );
      if (affected !== 1) throw notFound('This photograph');
      const text = `Withdrew a photograph of the wiring (${caption}): ${why}`;
      await this.logbook.write({ person, action: 'wiring-photo-withdrawn', tag, text }, manager);
    });
    return this.list(tag);
  }

  /** Photographs that are not what was kept. */
  async damaged(): Promise<readonly { readonly tag: string; readonly caption: string }[]> {
    return this.dataSource.query(
      `select p.tag, w.caption from wiring_photo w join position p on p.id = w.position_id
        where w.hash <> 'sha256:' || encode(sha256(w.content), 'hex') order by p.tag, w.added_at`,
    );
  }

  private async inForce(tag: string, id: string): Promise<WiringPhoto> {
    const { position } = await this.register.unitAt(tag);
    const photo = isUuid(id)
      ? await this.dataSource
          .getRepository(WiringPhoto)
          .createQueryBuilder('photo')
          .addSelect('photo.content')
          .where('photo.id = :id and photo.positionId = :position and photo.withdrawnAt is null', {
            ...{ id, position: position.id },
          })
          .getOne()
      : null;
    if (!photo) throw notFound('This photograph');
    return photo;
  }
}

const hashOf = (content: Buffer): string => `sha256:${createHash('sha256').update(content).digest('hex')}`;
