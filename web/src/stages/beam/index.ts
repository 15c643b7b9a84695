import type { StageScreen } from '../registry'
import BeamStage from './BeamStage.vue'

export default { key: 'beam', component: BeamStage, once: ['checks'] } satisfies StageScreen
