// What a plant may give to technicians or keep for engineers, and what it is as long as nobody says otherwise.

import { PERMISSIONS, type Permission } from '@drive-keep/api';
import type { Plant } from './plant.entity.ts';

export const USUALLY_MAY: Readonly<Record<Permission, 'technician' | 'engineer'>> = {
  write: 'technician',
  register: 'engineer',
};

export const leastRole = (
  plant: Pick<Plant, 'may'> | null,
  permission: Permission,
): 'technician' | 'engineer' => plant?.may[permission] ?? USUALLY_MAY[permission];

export const leastRoles = (plant: Pick<Plant, 'may'> | null): Record<Permission, 'technician' | 'engineer'> =>
  Object.fromEntries(PERMISSIONS.map((each) => [each, leastRole(plant, each)])) as Record<
    Permission,
    'technician' | 'engineer'
  >;
