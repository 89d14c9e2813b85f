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

module.exports = withNativeWind(config, { input: './global.css' });
