namespace YardRelay.Core.Tests;

public sealed class ReasonsTests
{
    [Theory]
    [InlineData("not needed", true)]
    [InlineData("wrong printer", true)]
    [InlineData("doppelt vorhanden", true)]
    [InlineData("\u4e0d\u8981", true)]
    [InlineData(null, false)]
    [InlineData("", false)]
    [InlineData("   ", false)]
    [InlineData("x", false)]
    [InlineData("ok", false)]
    [InlineData("n/a", false)]
    [InlineData("----------", false)]
    [InlineData("xxxxxxxxxx", false)]
    public void A_reason_says_something(string? text, bool says) => Reasons.SaysSomething(text).ShouldBe(says);

    [Fact]
    public void A_reason_ends() => Reasons.SaysSomething(string.Concat(Enumerable.Repeat("because of that ", 40))).ShouldBeFalse();
}
