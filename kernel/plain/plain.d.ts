// Sources of the kernel as plainKernel() of plugin.ts gives them.
declare module '*?plain';
