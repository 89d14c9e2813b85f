const { getDefaultConfig } = require('expo/metro-config');
const { withNativeWind } = require('nativewind/metro');

const config = getDefaultConfig(__dirname);

// By its "exports" map this package is found once as an ES module and once as CommonJS, and then what one copy registers
// the other does not know. By its plain fields it is found once.
const onePlace = /^@use-gesture\//;
config.resolver.resolveRequest = (context, name, platform) =>
  context.resolveRequest(
    onePlace.test(name) ? { ...context, unstable_enablePackageExports: false } : context,
    name,
    platform,
  );

// What is not shown yet is not set up yet: a module runs when something of it is first used. One that listens for something
// from the start has a function for it, which the outermost layout calls.
config.transformer.getTransformOptions = async () => ({ transform: { inlineRequires: true } });

module.exports = withNativeWind(config, { input: './global.css' });
