using System.Reflection;
using System.Text.Json;
using YardRelay.Contracts;

namespace YardRelay.Client.Tests;

public sealed class ContractShapesTests
{
    [Fact]
    public void The_shape_of_every_contract_is_known_when_the_program_is_built()
    {
        var contracts = typeof(SwapSeen).Assembly.GetExportedTypes()
            .Where(t => t is { IsClass: true, IsAbstract: false, IsGenericTypeDefinition: false }
                && t.GetCustomAttribute<System.Runtime.CompilerServices.CompilerGeneratedAttribute>() is null).ToList();
        contracts.Count.ShouldBeGreaterThan(40);
        contracts.Where(c => ContractShapes.Default.GetTypeInfo(c) is null)
            .Select(c => c.Name)
            .ShouldBeEmpty("add these to ContractShapes");
    }

    private static readonly JsonSerializerOptions Plain = new(YardClient.Json)
    {
        TypeInfoResolver = new System.Text.Json.Serialization.Metadata.DefaultJsonTypeInfoResolver()
    };

    [Fact]
    public void A_contract_is_written_the_same_with_the_shapes_and_without()
    {
        var report = new OrderReport(
            2,
            DateTimeOffset.UnixEpoch,
            new(1, 2, 3, 4, 5),
            new Carried(
                [new("Documents", new(3, 4), new(2, 3), new(1, 1))],
                [new("a", Core.Carrying.SnagKind.ChangedWhileRead, 1, "why")],
                Trip: 7),
            new(100));
        var text = JsonSerializer.Serialize(report, YardClient.Json);
        text.ShouldBe(JsonSerializer.Serialize(report, Plain));
        text.ShouldContain("\"changedWhileRead\"");
        JsonSerializer.Serialize(JsonSerializer.Deserialize<OrderReport>(text, YardClient.Json), YardClient.Json).ShouldBe(text);
    }
}
