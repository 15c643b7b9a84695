import type { StageScreen } from '../registry'
import ChecksStage from './ChecksStage.vue'

export default { key: 'checks', component: ChecksStage } satisfies StageScreen
