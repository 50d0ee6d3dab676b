using Xunit.v3;

// Tests of a class share a server and run as they stand in the file. The framework's own order hangs on the folder of the checkout: what
// passed in one would fail in another.
[assembly: TestCaseOrderer(typeof(UnorderedTestCaseOrderer))]
[assembly: TestMethodOrderer(typeof(UnorderedTestMethodOrderer))]
