namespace YardRelay.Service.Notices;

/// <summary>Where mail goes and who it is from.</summary>
/// <param name="Host">The mail server.</param>
/// <param name="Port">Its port; 587 where none is named, 465 for smtps.</param>
/// <param name="IsTls">smtps: TLS from the first byte. Else STARTTLS.</param>
/// <param name="NeedsTls">Nothing is sent to a server without TLS; only <c>smtp+plain</c> allows it, for a server on the same
/// computer.</param>
/// <param name="User">Name to sign in with; null: without.</param>
/// <param name="From">Address of the sender.</param>
/// <param name="Inbox">Where the mail server hands over what comes back to that address; null: nowhere.</param>
internal sealed record MailOptions(
    string Host, int Port, bool IsTls, bool NeedsTls, string? User, string? Password, string From, System.Net.IPEndPoint? Inbox = null)
{
    /// <summary>
    /// Reads <c>mail</c> (smtp://host:587, smtps://host, smtp+plain://127.0.0.1:25), <c>mail-from</c>, <c>mail-user</c>,
    /// <c>mail-password</c>, <c>mail-in</c> (127.0.0.1:2525); null: no mail.
    /// </summary>
    /// <exception cref="BadSettingException">One of them cannot be gone by.</exception>
    public static MailOptions? Read(Settings settings)
    {
        if (settings["mail"] is not { } text) return null;
        if (!Uri.TryCreate(text, UriKind.Absolute, out var uri)
            || uri.Scheme is not ("smtp" or "smtps" or "smtp+plain")
            || uri.Host.Length == 0)
            throw new BadSettingException(
                $"'{text}' is no mail server. 'mail' takes smtp://host:port (STARTTLS), smtps://host:port, or "
                    + "smtp+plain://127.0.0.1:port.");
        System.Net.IPEndPoint? inbox = null;
        if (settings["mail-in"] is { } at && (!System.Net.IPEndPoint.TryParse(at, out inbox) || inbox.Port == 0))
            throw new BadSettingException(
                $"'{at}' is no address with a port. 'mail-in' takes one of this computer's, such as 127.0.0.1:2525.");
        return new(
            uri.Host,
            uri.Port > 0 ? uri.Port : uri.Scheme == "smtps" ? 465 : 587,
            uri.Scheme == "smtps",
            uri.Scheme != "smtp+plain",
            settings["mail-user"],
            settings["mail-password"],
            settings["mail-from"] ?? $"yard-relay@{uri.Host}",
            inbox);
    }
}
