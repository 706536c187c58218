export { averagedShutter, type LightFrame, type Move } from './average';
export { BANDS, motionBetween, pyramidOfFrame, type FrameMotion, type GrayFrame } from './flow';
export { motionOf, type ClipMotion, type MotionStep } from './motion';
