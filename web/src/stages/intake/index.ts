import type { StageScreen } from '../registry'
import IntakeStage from './IntakeStage.vue'

export default { key: 'intake', component: IntakeStage, serves: ['new machine'] } satisfies StageScreen
