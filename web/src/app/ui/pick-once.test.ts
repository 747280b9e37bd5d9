import { ChangeDetectionStrategy, Component } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { PickOnce } from './pick-once';

@Component({
  imports: [PickOnce],
  template: `<select (hurPickOnce)="picked.push($event)">
    <option value="">put in …</option>
    <option value="echo">Echo</option>
    <option value="room">Room</option>
  </select>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
class Host {
  readonly picked: string[] = [];
}

function show() {
  const fixture = TestBed.createComponent(Host);
  fixture.detectChanges();
  const list = (fixture.nativeElement as HTMLElement).querySelector('select')!;
  const choose = (value: string): void => {
    list.value = value;
    list.dispatchEvent(new Event('change'));
  };
  const press = (key: string) => list.dispatchEvent(new KeyboardEvent('keydown', { key }));
  return { list, choose, press, picked: fixture.componentInstance.picked };
}

describe('a list that does something at each choice', () => {
  it('does it for what a hand chose, and stands at its beginning again', () => {
    const { list, choose, picked } = show();
    choose('room');
    choose('echo');
    expect(picked).toEqual(['room', 'echo']);
    expect(list.value).toBe('');
  });

  it('does it once for whoever goes through it by keys, at Enter', () => {
    const { choose, press, picked } = show();
    for (const value of ['echo', 'room']) {
      press('ArrowDown');
      choose(value);
    }
    expect(picked).toEqual([]);
    press('Enter');
    expect(picked).toEqual(['room']);
    press('Enter');
    expect(picked).toEqual(['room']);
  });

  it('does nothing when one goes on elsewhere', () => {
    const { list, choose, press, picked } = show();
    press('r');
    choose('room');
    list.dispatchEvent(new Event('blur'));
    press('Enter');
    expect([picked, list.value]).toEqual([[], '']);
  });
});
