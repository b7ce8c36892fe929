using System.Globalization;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Planning;

/// <summary>Which version of a draft a request goes on from.</summary>
internal static class DraftVersions
{
    public static readonly ServiceProblem NoVersion = new DraftVersionProblem();

    /// <summary>The version that an If-Match names; null: none, or not a number.</summary>
    public static int? VersionOf(HttpRequest request) =>
        int.TryParse(request.Headers.IfMatch.ToString().Trim().Trim('"'), NumberStyles.None, CultureInfo.InvariantCulture, out var version)
            ? version
            : null;
}
