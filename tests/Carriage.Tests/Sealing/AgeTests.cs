using CsCheck;
using YardRelay.Carriage.Sealing;
using YardRelay.Carriage.Tests.Trips;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Sealing;

/// <summary>The age v1 format, against the program of that name and against whoever changes a sealed file.</summary>
public sealed class AgeTests
{
    private const int Piece = 64 * 1024;

    public static TheoryData<int> Lengths => [0, 1, 1000, Piece - 1, Piece, Piece + 1, 3 * Piece, (3 * Piece) + 17];

    [Theory, MemberData(nameof(Lengths))]
    public async Task What_we_seal_age_opens_and_what_age_seals_we_open(int bytes)
    {
        using var folder = new TempFolder();
        var (plain, key, other) = (Bytes(bytes), AgeIdentity.Create(), AgeIdentity.Create());
        File.WriteAllText(folder["key"], key.Secret());
        File.WriteAllBytes(folder["plain"], plain);
        var ours = Sealed(plain, other.Recipient, key.Recipient);
        ours.Length.ShouldBe((int)SealingStream.LengthOf(bytes, 2));
        File.WriteAllBytes(folder["ours"], ours);
        // That age makes no file of nothing: its output is looked at instead.
        Run.Must("sh", "-c", $"age -d -i '{folder["key"]}' '{folder["ours"]}' | cmp - '{folder["plain"]}'");
        Run.Must("age", "-r", other.Recipient.Text, "-r", key.Recipient.Text, "-o", folder["theirs"], folder["plain"]);
        (await OpenAsync(File.ReadAllBytes(folder["theirs"]), key)).ShouldBe(plain);
        (await OpenAsync(ours, key)).ShouldBe(plain);
        using var file = await SealedFile.OpenAsync(Given.Passing(folder["theirs"]), [key], CancellationToken.None);
        var random = new Random(bytes);
        for (var i = 0; i < 40; i++)
        {
            var (at, into) = (random.Next(bytes + 1), new byte[random.Next(1, 5000)]);
            var got = file!.Read(at, into);
            into[..got].ShouldBe(plain[at..(at + got)]);
            if (at < bytes) got.ShouldBeGreaterThan(0);
        }
    }

    [Fact]
    public async Task A_key_that_it_is_not_sealed_to_opens_nothing_and_a_passphrase_only_the_right_one()
    {
        var sealedTo = Sealed(Bytes(50), AgeIdentity.Create().Recipient);
        (await OpenAsync(sealedTo, AgeIdentity.Create())).ShouldBeNull();
        using var sealing = SealingStream.To("three blue gulls", 10, new MemoryStream(Bytes(50)), 50);
        using var into = new MemoryStream();
        sealing.CopyTo(into);
        (await OpenAsync(into.ToArray(), null, "three blue gulls")).ShouldBe(Bytes(50));
        (await OpenAsync(into.ToArray(), null, "three blue gull")).ShouldBeNull();
    }

    [Fact]
    public async Task Any_byte_that_is_changed_cut_off_or_added_is_noticed_before_it_is_believed()
    {
        var (plain, key) = (Bytes(Piece + 100), AgeIdentity.Create());
        var whole = Sealed(plain, key.Recipient);
        var random = new Random(1);
        var header = whole.AsSpan().IndexOf("---"u8) + 48;
        foreach (var at in Enumerable.Range(0, header + 20).Concat(Enumerable.Range(0, 60).Select(_ => random.Next(whole.Length))))
        {
            var changed = (byte[])whole.Clone();
            changed[at] ^= 1;
            await RefusedAsync(changed, key, plain);
            await RefusedAsync(whole[..at], key, plain);
        }
        await RefusedAsync([.. whole, 0], key, plain);
        await RefusedAsync(whole[..(header + 16 + Piece + 16)], key, plain);
    }

    [Theory]
    [InlineData("-> scrypt AAAAAAAAAAAAAAAAAAAAAA 30\nAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA\n--- AAAA\n")]
    [InlineData("-> scrypt AAAAAAAAAAAAAAAAAAAAAA 10\nAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA\n-> x y\nAAAA\n--- AAAA\n")]
    [InlineData("-> X25519 AAAA\n")]
    [InlineData("->  \n\n--- AAAA\n")]
    [InlineData("nothing")]
    public async Task A_header_made_to_harm_is_refused(string rest) =>
        await Should.ThrowAsync<SealBrokenException>(() =>
            OpenAsync(System.Text.Encoding.ASCII.GetBytes("age-encryption.org/v1\n" + rest), null, "pass"));

    [Fact]
    public void Any_two_parts_of_a_key_make_it_again_and_parts_of_other_keys_or_mistyped_ones_do_not() =>
        Gen.Int[2, KeyParts.Most].Select(Gen.Int[0, 1000]).Sample((count, pick) =>
    {
        var (key, other) = (AgeIdentity.Create(), AgeIdentity.Create());
        var parts = KeyParts.Split(key, count);
        var (a, b) = (parts[pick % count], parts[(pick + 1 + (pick / count % (count - 1))) % count]);
        KeyParts.TryJoin(a, b)!.Secret().ShouldBe(key.Secret());
        KeyParts.TryJoin(a, a).ShouldBeNull();
        KeyParts.TryJoin(a, KeyParts.Split(other, count)[(pick + 1) % count]).ShouldBeNull();
        KeyParts.TryJoin(a, b[..^3] + (b[^3] == 'q' ? 'p' : 'q') + b[^2..]).ShouldBeNull();
    }, iter: 60);

    private static byte[] Bytes(int count)
    {
        var bytes = new byte[count];
        new Random(count).NextBytes(bytes);
        return bytes;
    }

    private static byte[] Sealed(byte[] plain, params AgeRecipient[] to)
    {
        using var sealing = SealingStream.To(to, new MemoryStream(plain), plain.Length);
        using var into = new MemoryStream();
        sealing.CopyTo(into);
        return into.ToArray();
    }

    private static async Task<byte[]?> OpenAsync(byte[] bytes, AgeIdentity? key, string? passphrase = null)
    {
        await using var opened = await OpenedStream.OpenAsync(
            new MemoryStream(bytes), key is null ? [] : [key], passphrase, CancellationToken.None);
        if (opened is null) return null;
        using var into = new MemoryStream();
        await opened.CopyToAsync(into);
        return into.ToArray();
    }

    // Nothing may come out that was not sealed: either nothing opens it, or it breaks.
    private static async Task RefusedAsync(byte[] bytes, AgeIdentity key, byte[] plain)
    {
        try
        {
            (await OpenAsync(bytes, key)).ShouldBeNull();
        }
        catch (SealBrokenException)
        {
            return;
        }
        plain.Length.ShouldBeGreaterThan(0);
    }
}
