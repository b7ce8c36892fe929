using System.Security.Cryptography;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using YardRelay.Peers;
using YardRelay.Records;
using YardRelay.Service.Keeping;

namespace YardRelay.Service.Tests;

/// <summary>What opens cookies, tickets and depots is in the database, and no copy of the database opens it.</summary>
public sealed class KeyRingTests : IDisposable
{
    private readonly TempFolder _folder = new();

    private string Database => $"Data Source={_folder["test.db"]}";

    /// <summary>A process of the service on the database.</summary>
    /// <param name="key">File of its computer's key; null: of a version that had none.</param>
    private ServiceProvider Process(string? key)
    {
        var services = new ServiceCollection();
        services.AddLogging();
        services.AddDbContext<YardDb>(o => RecordsOptions.Use(o, Database));
        if (key is not null) KeyRing.Add(services, ServiceKey.Open(_folder[key]));
        else services.AddDataProtection().SetApplicationName("yardrelay").PersistKeysToDbContext<YardDb>();
        return services.BuildServiceProvider();
    }

    private async Task PrepareAsync(IServiceProvider process, string key, bool anew = false)
    {
        using var scope = process.CreateScope();
        await KeyRing.PrepareAsync(
            process, scope.ServiceProvider.GetRequiredService<YardDb>(), _folder[key], anew, TestContext.Current.CancellationToken);
    }

    private static async Task<string> RingAsync(IServiceProvider process)
    {
        using var scope = process.CreateScope();
        var keys = scope.ServiceProvider.GetRequiredService<YardDb>().DataProtectionKeys;
        return string.Join('\n', await keys.Select(k => k.Xml).ToListAsync());
    }

    private static IDataProtector SealOf(IServiceProvider process) =>
        process.GetRequiredService<IDataProtectionProvider>().CreateProtector("test");

    [Fact]
    public async Task What_an_earlier_version_kept_in_plain_is_encrypted_and_still_opens()
    {
        string text;
        using (var before = Process(null))
        {
            using (var scope = before.CreateScope())
                await Schema.PrepareAsync(scope.ServiceProvider.GetRequiredService<YardDb>(), TestContext.Current.CancellationToken);
            text = SealOf(before).Protect("kept");
            (await RingAsync(before)).ShouldContain("<value>");
        }
        using var now = Process("one.key");
        await PrepareAsync(now, "one.key");
        await PrepareAsync(now, "one.key");
        var ring = await RingAsync(now);
        (ring.Contains("<value>"), ring.Contains("encryptedSecret")).ShouldBe((false, true), ring);
        SealOf(now).Unprotect(text).ShouldBe("kept");
    }

    [Fact]
    public async Task On_a_computer_without_its_key_a_database_opens_nothing_and_that_is_said()
    {
        string text;
        using (var own = Process("one.key"))
        {
            using (var scope = own.CreateScope())
                await Schema.PrepareAsync(scope.ServiceProvider.GetRequiredService<YardDb>(), TestContext.Current.CancellationToken);
            text = SealOf(own).Protect("kept");
            (await RingAsync(own)).ShouldNotContain("<value>");
        }
        File.GetUnixFileMode(_folder["one.key"]).ShouldBe(UnixFileMode.UserRead | UnixFileMode.UserWrite);
        using (var strange = Process("other.key"))
        {
            (await Should.ThrowAsync<BadSettingException>(PrepareAsync(strange, "other.key"))).Message.ShouldContain("--key-anew");
            await PrepareAsync(strange, "other.key", anew: true);
            Should.Throw<CryptographicException>(() => SealOf(strange).Unprotect(text));
        }
        File.WriteAllText(_folder["none.key"], "nothing");
        Should.Throw<BadSettingException>(() => Process("none.key"));
    }

    [Fact]
    public void Of_processes_that_start_at_once_all_have_one_key()
    {
        var keys = Enumerable.Range(0, 4).AsParallel().Select(_ => ServiceKey.Open(_folder["new.key"]).Thumbprint).ToList();
        keys.Distinct().ShouldHaveSingleItem();
        Directory.GetFiles(_folder.At).ShouldHaveSingleItem();
    }

    public void Dispose() => _folder.Dispose();
}
