<?php

declare(strict_types=1);

use App\Sessions\RevisionDocuments;
use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        foreach (['renders', 'survey_parts', 'remedy_plans', 'media'] as $table) {
            Schema::table($table, static function (Blueprint $table): void {
                // Word of the worker that has it; what another worker had is not written by this one.
                $table->string('claim', 32)->nullable();
                $table->unsignedSmallInteger('attempts')->default(0);
                $table->timestamp('queued_at')->nullable();
                if (in_array($table->getTable(), ['media'], true)) {
                    $table->timestamp('beat_at')->nullable();
                    $table->float('progress')->default(0);
                    $table->unsignedInteger('prepare_rate')->nullable();
                    $table->unsignedBigInteger('unreadable')->default(0);
                }
            });
        }
        DB::table('media')->where('status', 'preparing')->update(['status' => 'failed', 'message' => 'The import was not finished. Import the file again.']);
        // Sessions hold their document; revisions hold differences, see RevisionDocuments.
        Schema::table('sessions', static function (Blueprint $table): void {
            $table->longText('document')->default('');
            $table->text('notice')->nullable();
        });
        Schema::table('revisions', static function (Blueprint $table): void {
            $table->binary('difference')->default('');
            // How many differences lie between it and a document in full; 0 is one in full.
            $table->unsignedSmallInteger('depth')->default(0);
        });
        Schema::create('session_media', static function (Blueprint $table): void {
            // Every recording any revision of a session names: none of them goes while the session is there.
            $table->foreignId('session_id')->constrained()->cascadeOnDelete();
            $table->string('media_id', 64);
            $table->primary(['session_id', 'media_id']);
        });
        RevisionDocuments::convert();
        Schema::table('revisions', static fn (Blueprint $table) => $table->dropColumn(['document', 'edit']));
        // Surveys and plans are of the session as it is; figures from before are measured again.
        DB::table('surveys')->delete();
        DB::table('remedy_plans')->delete();
        Schema::table('surveys', static fn (Blueprint $table) => $table->dropColumn('document'));
        Schema::table('remedy_plans', static fn (Blueprint $table) => $table->dropColumn('document'));
        foreach (DB::table('renders')->get(['id', 'document']) as $render) {
            DB::table('renders')->where('id', $render->id)->update(['document' => gzdeflate((string) $render->document)]);
        }
    }

    public function down(): void
    {
        throw new RuntimeException('Differences are not turned back into documents. Restore the database from before.');
    }
};
