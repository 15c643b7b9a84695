import type { StageScreen } from '../registry'
import HeadlightStage from './HeadlightStage.vue'

export default { key: 'headlight', component: HeadlightStage } satisfies StageScreen
