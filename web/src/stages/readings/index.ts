import type { StageScreen } from '../registry'
import ReadingsStage from './ReadingsStage.vue'

export default { key: 'readings', component: ReadingsStage, serves: ['reading'] } satisfies StageScreen
