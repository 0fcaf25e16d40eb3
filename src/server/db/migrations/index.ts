import { First } from './0001-first';
import { CutOff } from './0002-cut-off';
import { CutTable } from './0003-cut';
import { Parcels } from './0004-parcels';
import { NamedRigs } from './0005-named-rigs';
import { TakeTreatment } from './0006-treatment';
import { StoresAndSchedule } from './0007-stores-and-schedule';
import { SafeKeeping } from './0008-safe-keeping';
import { Rehearsals } from './0009-rehearsals';
import { IncomingFiles } from './0010-incoming';

/** In the order in which they run; a name is never changed once it has landed. */
export const MIGRATIONS = [
  { name: '0001-first', class: First },
  { name: '0002-cut-off', class: CutOff },
  { name: '0003-cut', class: CutTable },
  { name: '0004-parcels', class: Parcels },
  { name: '0005-named-rigs', class: NamedRigs },
  { name: '0006-treatment', class: TakeTreatment },
  { name: '0007-stores-and-schedule', class: StoresAndSchedule },
  { name: '0008-safe-keeping', class: SafeKeeping },
  { name: '0009-rehearsals', class: Rehearsals },
  { name: '0010-incoming', class: IncomingFiles },
];
