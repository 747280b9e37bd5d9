import { documentEffects } from '../document/document.effects';
import { PatchActions } from './patch.actions';
import { patchKind } from './patch.kind';
import { patchFeature } from './patch.reducer';

/** Reading, keeping and saving of patches. */
export const patchEffects = documentEffects({
  kind: patchKind,
  actions: PatchActions,
  select: patchFeature.selectPatchState,
});
