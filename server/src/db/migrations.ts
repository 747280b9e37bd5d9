import { DeviceTable1806000000000 } from './device-table';
import { EveningTables1804000000000 } from './evening-tables';
import { FirstTables1790000000000 } from './first-tables';
import { HistoryTables1797000000000 } from './history-tables';
import { InstrumentEditions1800000000000 } from './instrument-editions';
import { InstrumentVersions1799000000000 } from './instrument-versions';
import { SessionsTable1796000000000 } from './sessions-table';
import { TakeChunks1798000000000 } from './take-chunks';
import { SoundTable1807000000000 } from './sound-table';
import { VersionSums1808000000000 } from './version-sums';
import { VersionNames1801000000000 } from './version-names';
import { PhotographsTable1802000000000 } from './photographs-table';
import { ShownTable1803000000000 } from './shown-table';
import { WalkTables1805000000000 } from './walk-tables';
import { UnitsTable1795000000000 } from './units-table';

/** What brings a library from one shape to the next, oldest first. */
export const migrations = [
  FirstTables1790000000000,
  UnitsTable1795000000000,
  SessionsTable1796000000000,
  HistoryTables1797000000000,
  TakeChunks1798000000000,
  InstrumentVersions1799000000000,
  InstrumentEditions1800000000000,
  VersionNames1801000000000,
  PhotographsTable1802000000000,
  ShownTable1803000000000,
  EveningTables1804000000000,
  WalkTables1805000000000,
  DeviceTable1806000000000,
  SoundTable1807000000000,
  VersionSums1808000000000,
];
