import type { StageScreen } from '../registry'
import FunctionStage from './FunctionStage.vue'

export default { key: 'function', component: FunctionStage } satisfies StageScreen
