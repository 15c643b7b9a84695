import type { StageScreen } from '../registry'
import ChooseStage from './ChooseStage.vue'

export default { key: 'choose', component: ChooseStage, serves: ['shelf'] } satisfies StageScreen
