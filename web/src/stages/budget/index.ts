import type { StageScreen } from '../registry'
import BudgetStage from './BudgetStage.vue'

export default { key: 'budget', component: BudgetStage, serves: ['opening', 'settings'] } satisfies StageScreen
