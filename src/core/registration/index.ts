export { previewOf, type Preview } from './preview';
export { alignPreviews, applyPose, IDENTITY, type Alignment, type Pose } from './align';
export { carryRect, judgeView, MOST_ROTATION_DEGREES, MOST_SHIFT, type ViewState } from './carry';
