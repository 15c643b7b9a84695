import type { StageScreen } from '../registry'
import SignalsStage from './SignalsStage.vue'

export default { key: 'signals', component: SignalsStage } satisfies StageScreen
