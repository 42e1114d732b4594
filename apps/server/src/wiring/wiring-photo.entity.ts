import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** A photograph of a wiring, encoded anew: what a camera writes beside the picture is not kept. */
@Entity('wiring_photo')
export class WiringPhoto {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid') positionId: string;
  /** The wiring that was in force; 0 where none was kept. */
  @Column('integer') revision: number;
  @Column('text') caption: string;
  /** In pixels. */
  @Column('integer') width: number;
  @Column('integer') height: number;
  /** JPEG. */
  @Column('bytea', { select: false }) content: Buffer;
  @Column('text') hash: string;
  @Column('timestamptz') addedAt: Date;
  @Column('text') addedBy: string;
  @Column('timestamptz', { nullable: true }) withdrawnAt: Date | null;
  @Column('text', { nullable: true }) withdrawnBy: string | null;
  @Column('text', { nullable: true }) withdrawnWhy: string | null;
}
