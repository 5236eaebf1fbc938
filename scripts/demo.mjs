// One command from a fresh clone to the running demo project.
import { build, packages, programs, run } from './ready.mjs';

packages();
programs({ ffmpeg: 'ffmpeg' }, true);
build();
run('node', ['server/dist/main.js'], { ZIPPY_DEMO: '1' });
