import type { Database } from './db/database';
import { readyMade, skeletons } from './demo/library';
import { WaitingParcels } from './parcel/waiting';
import type { Services } from './routes/shared';
import { Carrying } from './store/carrying';
import { DeviceStore } from './store/devices';
import { EveningStore } from './store/evenings';
import { InstrumentStore } from './store/instruments';
import { PatchStore } from './store/patches';
import { PhotographStore } from './store/photographs';
import { SoundStore } from './store/sounds';
import { ProgressStore } from './store/progress';
import { ShownStore } from './store/shown';
import { SessionStore } from './store/sessions';
import { TakeStore } from './store/takes';
import { UnitStore } from './store/units';
import { WalkStore } from './store/walks';
import type { Work } from './work/work';

/** All stores over one database, and what renders. */
export function createServices(database: Database, work: Work): Services {
  const instruments = new InstrumentStore(database, readyMade);
  const patches = new PatchStore(database, instruments);
  const sessions = new SessionStore(database);
  const evenings = new EveningStore(database);
  const services: Services = {
    database,
    instruments,
    skeletons,
    patches,
    carrying: new Carrying(database, instruments, patches),
    progress: new ProgressStore(database),
    shown: new ShownStore(database),
    units: new UnitStore(database, instruments),
    sessions,
    evenings,
    devices: new DeviceStore(database),
    walks: new WalkStore(database, evenings),
    takes: new TakeStore(database, sessions),
    photographs: new PhotographStore(database),
    sounds: new SoundStore(database),
    parcels: new WaitingParcels(
      () => services,
      (other) => createServices(other, work),
    ),
    work,
  };
  return services;
}
