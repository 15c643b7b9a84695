import type { StageScreen } from '../registry'
import AimStage from './AimStage.vue'

export default { key: 'aim', component: AimStage } satisfies StageScreen
