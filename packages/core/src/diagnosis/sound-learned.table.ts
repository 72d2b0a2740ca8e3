import type { SoundLearned } from "./sound-kinds";

export const SOUND_LEARNED: SoundLearned = { provenance: "", numbers: [], weights: {} };
