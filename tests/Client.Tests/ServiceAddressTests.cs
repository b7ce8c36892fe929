namespace YardRelay.Client.Tests;

public sealed class ServiceAddressTests
{
    [Theory]
    [InlineData("https://yard.example", false, null)]
    [InlineData("http://127.0.0.1:8420", false, null)]
    [InlineData("http://localhost:8420", false, null)]
    [InlineData("http://[::1]:8420", false, null)]
    [InlineData("http://yard.example", false, "service.in-clear")]
    [InlineData("http://10.0.0.4", false, "service.in-clear")]
    [InlineData("http://localhost.example", false, "service.in-clear")]
    [InlineData("http://yard.example", true, null)]
    [InlineData("ftp://yard.example", true, "service.address")]
    [InlineData("yard.example", true, "service.address")]
    [InlineData(null, true, "service.address")]
    public void Secrets_go_to_a_service_in_cipher_or_on_this_computer_unless_somebody_said_so(string? given, bool inClear, string? code)
    {
        var read = ServiceAddress.Of(given, inClear);
        (read.IsOk ? null : read.Problem.Code).ShouldBe(code);
    }
}
