import type { StageScreen } from '../registry'
import WiringStage from './WiringStage.vue'

export default { key: 'wiring', component: WiringStage } satisfies StageScreen
