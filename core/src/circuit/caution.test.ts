import { initWith, sluice } from '../testing/sluice';
import { levelCaution } from './caution';

it('warns of what can jump in level, and of nothing else', () => {
  expect(levelCaution(sluice, initWith({ resonance: 0.3 }))).toBe('');
  expect(levelCaution(sluice, initWith({ resonance: 0.95 }))).toBe(
    'Level can jump: filter is turned far up. Turn the monitors down first.',
  );
});
