import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** A voltage as somebody measured it; never changed, a further one is another row. */
@Entity('supply_measurement')
export class SupplyMeasurement {
  @PrimaryGeneratedColumn('identity', { type: 'bigint' }) id: string;
  @Column('uuid') supplyId: string;
  @Column('numeric') volts: string;
  @Column('timestamptz') at: Date;
  @Column('text') person: string;
  @Column('text') note: string;
}
