module.exports = { preset: 'jest-expo/web', displayName: 'client', passWithNoTests: true };
