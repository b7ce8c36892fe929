using System.Buffers.Binary;
using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;

namespace YardRelay.Peers;

/// <summary>
/// A passkey without a device: an authenticator of Web Authentication, level 3, with one P-256 key and no attestation, and the browser
/// before it.
/// </summary>
/// <param name="origin">The page that the browser says it shows.</param>
public sealed class SoftPasskey(Uri origin) : IDisposable
{
    private const byte UserIsThere = 0x01, UserIsKnown = 0x04, BringsAKey = 0x40;
    private readonly ECDsa _key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
    private readonly byte[] _id = RandomNumberGenerator.GetBytes(32);
    private byte[] _user = [];

    /// <summary>How often it was used; one that was copied says less than the service knows.</summary>
    public uint Count { get; set; }

    /// <summary>What it answers to PublicKeyCredentialCreationOptionsJSON.</summary>
    public JsonElement Make(JsonElement options)
    {
        _user = Base64Url.DecodeFromChars(options.GetProperty("user").GetProperty("id").GetString());
        var point = _key.ExportParameters(false).Q;
        byte[] cose = [0xA5, 0x01, 0x02, 0x03, 0x26, 0x20, 0x01, 0x21, 0x58, 0x20, .. point.X!, 0x22, 0x58, 0x20, .. point.Y!];
        byte[] data =
        [
            .. Head(UserIsThere | UserIsKnown | BringsAKey), .. new byte[16], 0, (byte)_id.Length, .. _id, .. cose
        ];
        byte[] attestation =
        [
            0xA3, 0x63, .. "fmt"u8, 0x64, .. "none"u8, 0x67, .. "attStmt"u8, 0xA0, 0x68, .. "authData"u8, 0x58, (byte)data.Length, .. data
        ];
        return Credential(new
        {
            clientDataJSON = Text(ClientData("webauthn.create", options)),
            attestationObject = Text(attestation),
            transports = new[] { "internal" }
        });
    }

    /// <summary>What it answers to PublicKeyCredentialRequestOptionsJSON.</summary>
    public JsonElement Show(JsonElement options)
    {
        Count++;
        var (client, data) = (ClientData("webauthn.get", options), Head(UserIsThere | UserIsKnown));
        return Credential(new
        {
            clientDataJSON = Text(client),
            authenticatorData = Text(data),
            signature = Text(_key.SignData(
                [.. data, .. SHA256.HashData(client)], HashAlgorithmName.SHA256, DSASignatureFormat.Rfc3279DerSequence)),
            userHandle = Text(_user)
        });
    }

    /// <inheritdoc/>
    public void Dispose() => _key.Dispose();

    private byte[] Head(byte flags)
    {
        var count = new byte[4];
        BinaryPrimitives.WriteUInt32BigEndian(count, Count);
        return [.. SHA256.HashData(Encoding.UTF8.GetBytes(origin.Host)), flags, .. count];
    }

    private byte[] ClientData(string type, JsonElement options) => JsonSerializer.SerializeToUtf8Bytes(new
    {
        type,
        challenge = options.GetProperty("challenge").GetString(),
        origin = origin.GetLeftPart(UriPartial.Authority),
        crossOrigin = false
    });

    private JsonElement Credential(object response) => JsonSerializer.SerializeToElement(new
    {
        id = Text(_id),
        rawId = Text(_id),
        type = "public-key",
        clientExtensionResults = new { },
        authenticatorAttachment = "platform",
        response
    });

    private static string Text(byte[] bytes) => Base64Url.EncodeToString(bytes);
}
