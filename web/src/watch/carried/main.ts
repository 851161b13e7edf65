import { createApp } from 'vue';
import '../../look/palette.css';
import { useRoomLight } from '../../device/room-light';
import { carried } from '../opening/carried';
import Watch from '../Watch.vue';
import { CourseReport } from './course';

/** The student's page with all it needs within it: from a disk, or in a course system. */
const page = carried()!;
useRoomLight();
const report = CourseReport.begin(page.about.lengthSamples);
const goesOnAt = report?.goesOnAtSeconds ?? 0;
if (goesOnAt > 0 && !location.hash) history.replaceState(null, '', `#t=${goesOnAt}`);
createApp(Watch, { token: page.token, onHeard: (atSamples: number) => report?.hear(atSamples) }).mount('#app');
