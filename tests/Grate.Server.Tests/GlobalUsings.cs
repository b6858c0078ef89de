global using Grate.Core.Places;
global using Xunit;
