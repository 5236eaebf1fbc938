declare module 'opencascade.js/dist/opencascade.full.js';
