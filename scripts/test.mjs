// One command from a fresh clone through every test.
import { build, packages, programs, run } from './ready.mjs';

packages();
programs({ ffmpeg: 'ffmpeg', chromium: 'chromium', exrheader: 'openexr' });
run('npm', ['run', 'check', '--silent']);
build();
run('npm', ['run', 'e2e', '--silent']);
