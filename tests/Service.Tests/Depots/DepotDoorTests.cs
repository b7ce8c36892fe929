using Microsoft.Extensions.Configuration;
using YardRelay.Carriage.Depots;
using YardRelay.Service.Depots;

namespace YardRelay.Service.Tests;

public sealed class DepotDoorTests
{
    [Theory]
    [InlineData("https://store.example/a", "https://store.example/a", true)]
    [InlineData("https://store.example/a", "https://store.example/a/", true)]
    [InlineData("https://store.example/a", "https://STORE.example:443/a/b", true)]
    [InlineData("https://store.example/a/b", "https://store.example/a", false)]
    [InlineData("https://store.example/a", "https://store.example/ab", false)]
    [InlineData("https://store.example/a", "https://store.example/a/../b", false)]
    [InlineData("https://store.example/a", "http://store.example/a", false)]
    [InlineData("https://store.example/a", "https://store.example:8443/a", false)]
    [InlineData("https://store.example/a", "https://store.example.elsewhere.example/a", false)]
    [InlineData("sftp://ferry@store.example/a", "sftp://other@store.example/a", false)]
    [InlineData("https://store.example/a", "built-in", false)]
    public void What_opens_a_place_opens_what_lies_in_it_and_nothing_else(string before, string now, bool opens) =>
        DepotDoor.Opens(before, now).ShouldBe(opens);

    [Theory]
    [InlineData("https://store.example/a", true)]
    [InlineData("sftp://ferry@store.example/a", true)]
    [InlineData("https://10.0.0.4/a", true)]
    [InlineData("http://store.example/a", false)]
    [InlineData("https://localhost/a", false)]
    [InlineData("https://depot.localhost/a", false)]
    [InlineData("https://127.0.0.1/a", false)]
    [InlineData("https://127.8.8.8/a", false)]
    [InlineData("https://2130706433/a", false)]
    [InlineData("https://0x7f.1/a", false)]
    [InlineData("https://0.0.0.0/a", false)]
    [InlineData("https://[::1]/a", false)]
    [InlineData("https://[::]/a", false)]
    [InlineData("https://[::ffff:127.0.0.1]/a", false)]
    [InlineData("https://169.254.169.254/a", false)]
    [InlineData("https://[::ffff:169.254.169.254]/a", false)]
    [InlineData("sftp://ferry@[fe80::1]/a", false)]
    [InlineData("https://[64:ff9b::7f00:1]/a", false)]
    [InlineData("https://[2002:7f00:1::]/a", false)]
    [InlineData("https://[64:ff9b::a00:4]/a", true)]
    public void Secrets_go_in_cipher_and_to_another_computer_unless_somebody_said_so(string address, bool may)
    {
        (DepotDoor.Against(address, []) is null).ShouldBe(may);
        (DepotDoor.Against(address, ["elsewhere.example"]) is null).ShouldBe(may);
        DepotDoor.Against(address, [new Uri(address).IdnHost]).ShouldBeNull();
    }

    [Theory]
    [InlineData("/srv/other", false)]
    [InlineData("file:///srv/shared-not", false)]
    [InlineData("file:///srv/shared/../other", false)]
    [InlineData("file:///srv/shared/depot", true)]
    [InlineData("direct://10.0.0.4:7000", false)]
    [InlineData("https://store.example/a", true)]
    public void The_service_opens_no_folder_by_itself_that_nobody_named(string address, bool opens) =>
        Door().Open(new(address, "a/b")).IsOk.ShouldBe(opens);

    [Theory]
    [InlineData("http://localhost:9/")]
    [InlineData("sftp://ferry@localhost:9/a")]
    public async Task A_name_that_means_this_computer_leads_nowhere(string address)
    {
        using var depot = Door().Open(new(address, "a/b", Access: new(Password: "secret"))).Value;
        (await Should.ThrowAsync<DepotUnreachableException>(() => depot.ProbeAsync(default))).Message.ShouldContain("where it does not go");
    }

    private static ServiceDoor Door()
    {
        var options = ServiceOptions.Read(new(new ConfigurationBuilder()
            .AddInMemoryCollection(new Dictionary<string, string?> { ["depot-folders"] = "/srv/shared" }).Build()));
        return new(null!, options);
    }
}
