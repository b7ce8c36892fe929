using YardRelay.Service.Accounts;
using YardRelay.Service.Rosters;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Worlds;

/// <summary>Technicians: skills, sites, shifts, absences.</summary>
internal static class TechnicianEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/technicians", TechnicianHandlers.ListAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListTechnicians")
            .WithSummary("Technicians with skills, sites, shifts and absences.");
        routes.MapPut("/refreshes/{refresh}/technicians/{key}", TechnicianHandlers.PutAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("PutTechnician")
            .WithSummary("Makes or changes a technician.");
        routes.MapPost("/refreshes/{refresh}/technicians/table", TechnicianHandlers.TakeAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("TakeTechnicians")
            .WithSummary(
                "Takes a list of technicians (CSV or XLSX): every row, or none if one is wrong. dryRun=true only shows what would change.")
            .AddOpenApiOperationTransformer((operation, _, _) =>
        {
            operation.RequestBody = RosterFile.Body();
            return Task.CompletedTask;
        });
        routes.MapDelete("/refreshes/{refresh}/technicians/{key}", TechnicianHandlers.DropAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("DropTechnician")
            .WithSummary("Takes a technician out; what they were booked for is planned anew.");
    }
}
