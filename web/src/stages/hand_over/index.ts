import type { StageScreen } from '../registry'
import HandOverStage from './HandOverStage.vue'

export default { key: 'hand_over', component: HandOverStage } satisfies StageScreen
