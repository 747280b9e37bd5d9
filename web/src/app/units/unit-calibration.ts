import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import {
  calibrationFault,
  type CalibrationPoint,
  controlLabel,
  expectedReadings,
  formatPhysical,
  formatValue,
  inWorkingOrder,
  isSwitched,
  measuredAgainst,
  parseReading,
  taperValue,
} from '@hurrel/core';
import { UnitDesk } from './unit-desk';

/** What a unit's dials really come to, point by point. */
@Component({
  selector: 'hur-unit-calibration',
  templateUrl: './unit-calibration.html',
  styleUrl: './unit-calibration.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class UnitCalibration {
  protected readonly desk = inject(UnitDesk);
  protected readonly said = signal('');
  protected readonly chosen = signal<string | null>(null);
  protected readonly measures = measuredAgainst;

  protected readonly measurable = computed(() => {
    const instrument = this.desk.instrument();
    if (!instrument) return [];
    return inWorkingOrder(instrument)
      .filter((c) => !isSwitched(c) && c.bindings.length > 0)
      .map((c) => ({ id: c.id, label: controlLabel(instrument, c.id) }));
  });

  protected readonly control = computed(() => {
    const id = this.chosen() ?? this.measurable()[0]?.id;
    const found = this.desk.instrument()?.controls.find((c) => c.id === id);
    return found && !isSwitched(found) ? found : undefined;
  });

  protected readonly expected = computed(() => {
    const control = this.control();
    return control ? formatValue(control, 0.5) : '';
  });

  protected readonly nominal = computed(() => {
    const taper = this.control()?.bindings[0]?.taper;
    return taper ? formatPhysical(taperValue(taper, 0.5), taper.unit) : '';
  });

  protected readonly points = computed(() => {
    const [unit, instrument] = [this.desk.unit(), this.desk.instrument()];
    if (!unit || !instrument) return [];
    return Object.entries(unit.calibration).flatMap(([id, points]) => {
      const control = instrument.controls.find((c) => c.id === id);
      if (!control || isSwitched(control)) return [];
      const { taper } = control.bindings[0]!;
      return points.map((p) => {
        const nominal = taperValue(taper, p.at);
        const ratio = taper.kind === 'exponential' && taper.unit === 'Hz';
        return {
          key: `${id}-${p.at}`,
          control: id,
          at: p.at,
          label: controlLabel(instrument, id),
          reading: formatValue(control, p.at),
          value: formatPhysical(p.value, taper.unit),
          nominal: formatPhysical(nominal, taper.unit),
          off: ratio
            ? `${signed(Math.round(1200 * Math.log2(p.value / nominal)))} cents`
            : signed(Math.round((p.value - nominal) * 100) / 100),
          against: p.against,
        };
      });
    });
  });

  protected measure(
    reading: HTMLInputElement,
    value: HTMLInputElement,
    against: HTMLSelectElement,
  ): void {
    const [control, unit] = [this.control(), this.desk.unit()];
    if (!control || !unit) return;
    const parsed = parseReading(reading.value, control);
    const setting = parsed.ok ? parsed.setting : null;
    if (setting?.kind !== 'set' || typeof setting.value !== 'number') {
      this.said.set(`What does it read? Expected ${expectedReadings(control)}.`);
      return reading.focus();
    }
    const number = Number.parseFloat(value.value.replace(',', '.'));
    if (!Number.isFinite(number)) {
      this.said.set('What does it come to? Expected a number, as 440 or 6.5.');
      return value.focus();
    }
    const khz = /k\s*hz/i.test(value.value) ? 1000 : 1;
    const ms = /ms/i.test(value.value) ? 0.001 : 1;
    const point: CalibrationPoint = {
      at: setting.value,
      value: number * khz * ms,
      against: against.value as CalibrationPoint['against'],
    };
    const points = [
      ...(unit.calibration[control.id] ?? []).filter((p) => p.at !== point.at),
      point,
    ];
    points.sort((a, b) => a.at - b.at);
    const fault = calibrationFault(control, points);
    if (fault) return this.said.set(fault);
    this.said.set('');
    this.desk.change({ calibration: { ...unit.calibration, [control.id]: points } });
    for (const field of [reading, value]) field.value = '';
    reading.focus();
  }

  protected forget(control: string, at: number): void {
    const unit = this.desk.unit()!;
    const points = unit.calibration[control]!.filter((p) => p.at !== at);
    const calibration = { ...unit.calibration, [control]: points };
    if (points.length === 0) delete calibration[control];
    this.desk.change({ calibration });
  }
}

const signed = (value: number): string => (value > 0 ? `+${value}` : String(value));
