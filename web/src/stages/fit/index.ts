import type { StageScreen } from '../registry'
import FitStage from './FitStage.vue'

export default { key: 'fit', component: FitStage } satisfies StageScreen
