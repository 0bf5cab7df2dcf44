<?php

declare(strict_types=1);

use App\Http\Controllers\EditController;
use App\Http\Controllers\FolderController;
use App\Http\Controllers\HeadroomController;
use App\Http\Controllers\InterfaceController;
use App\Http\Controllers\ListeningController;
use App\Http\Controllers\LoadController;
use App\Http\Controllers\LoopController;
use App\Http\Controllers\MediaController;
use App\Http\Controllers\MicrophoneController;
use App\Http\Controllers\MusicalKeyController;
use App\Http\Controllers\NotesController;
use App\Http\Controllers\PerformerController;
use App\Http\Controllers\PilotController;
use App\Http\Controllers\PlanController;
use App\Http\Controllers\PresetController;
use App\Http\Controllers\PresetFileController;
use App\Http\Controllers\PrintController;
use App\Http\Controllers\ProcessorController;
use App\Http\Controllers\RenderController;
use App\Http\Controllers\RowPresetController;
use App\Http\Controllers\RulesController;
use App\Http\Controllers\SessionController;
use App\Http\Controllers\SplitPresetController;
use App\Http\Controllers\StorageController;
use App\Http\Controllers\SurveyController;
use App\Http\Controllers\UploadController;
use Illuminate\Support\Facades\Route;

// What is no number or no id is not found, however long it is.
Route::patterns(['session' => '\d{1,15}', 'revision' => '\d{1,15}', 'preset' => '\d{1,15}', 'channel' => '[A-Za-z0-9_-]{1,64}', 'media' => '[A-Za-z0-9]{1,64}',
    'upload' => '[0-9a-f-]{36}', 'render' => '[0-9a-f-]{36}', 'listening' => '[0-9a-f-]{36}', 'print_parts' => '[0-9a-f-]{36}']);

Route::get('sessions', [SessionController::class, 'index']);
Route::post('sessions', [SessionController::class, 'store']);
Route::get('sessions/discarded', [SessionController::class, 'discarded']);
Route::post('sessions/{session}/copy', [SessionController::class, 'copy']);
Route::post('sessions/{session}/discard', [SessionController::class, 'discard']);
Route::post('sessions/{session}/restore', [SessionController::class, 'restore']);
Route::get('sessions/{session}/bundle', [SessionController::class, 'bundle']);
Route::post('uploads/{upload}/open', [SessionController::class, 'unpack']);
Route::get('sessions/{session}', [SessionController::class, 'show']);
Route::get('sessions/{session}/revisions', [SessionController::class, 'revisions']);
Route::post('sessions/{session}/edits', [EditController::class, 'store']);
Route::post('sessions/{session}/undo', [EditController::class, 'undo']);
Route::post('sessions/{session}/redo', [EditController::class, 'redo']);
Route::post('sessions/{session}/revisions/{revision}', [EditController::class, 'goTo']);

Route::get('sessions/{session}/channels/{channel}/musical-key', [MusicalKeyController::class, 'show']);
Route::get('sessions/{session}/advice', [PilotController::class, 'index']);
Route::put('sessions/{session}/advice', [PilotController::class, 'update']);

Route::get('interface', [InterfaceController::class, 'show']);
Route::post('interface/levels', [InterfaceController::class, 'levels']);
Route::post('interface/microphones/{port}', [MicrophoneController::class, 'store'])->where('port', '[1-8]');
Route::put('interface', [InterfaceController::class, 'update']);

Route::post('sessions/{session}/loops/{loop}/ping', [LoopController::class, 'ping'])->where('loop', '[A-Za-z0-9_-]{1,64}');
Route::get('sessions/{session}/recall', [LoopController::class, 'recall']);

Route::post('sessions/{session}/cues/{channel}/page', [PerformerController::class, 'open']);
Route::delete('sessions/{session}/cues/{channel}/page', [PerformerController::class, 'close']);
Route::get('cues/{key}', [PerformerController::class, 'show'])->where('key', '[0-9a-f]{32}');
Route::put('cues/{key}', [PerformerController::class, 'update'])->where('key', '[0-9a-f]{32}');

Route::post('midi', [NotesController::class, 'read']);
Route::get('sessions/{session}/notes/{channel}', [NotesController::class, 'write'])->where('channel', '[A-Za-z0-9_-]{1,64}');

Route::get('rules', [RulesController::class, 'index']);
Route::get('processors', [ProcessorController::class, 'index']);
Route::post('processors/{processor}/picture', [ProcessorController::class, 'picture']);
Route::get('presets', [PresetController::class, 'index']);
Route::post('presets', [PresetController::class, 'store']);
Route::get('presets/file', [PresetFileController::class, 'show']);
Route::post('presets/file', [PresetFileController::class, 'store']);
Route::get('folders', [FolderController::class, 'index']);
Route::put('folders', [FolderController::class, 'update']);
Route::get('row-presets', [RowPresetController::class, 'index']);
Route::post('row-presets', [RowPresetController::class, 'store']);
Route::delete('row-presets/{preset}', [RowPresetController::class, 'destroy']);
Route::delete('presets/{preset}', [PresetController::class, 'destroy']);

Route::get('split-presets', [SplitPresetController::class, 'index']);
Route::post('split-presets', [SplitPresetController::class, 'store']);
Route::delete('split-presets/{preset}', [SplitPresetController::class, 'destroy']);

Route::post('uploads', [UploadController::class, 'store']);
Route::get('uploads/{upload}', [UploadController::class, 'show']);
Route::put('uploads/{upload}', [UploadController::class, 'append']);
Route::post('uploads/{upload}/finish', [UploadController::class, 'finish']);
Route::get('media/{media}', [MediaController::class, 'show']);

Route::get('sessions/{session}/survey', [SurveyController::class, 'show']);
Route::post('sessions/{session}/survey', [SurveyController::class, 'store']);
Route::post('sessions/{session}/survey/stop', [SurveyController::class, 'stop']);

Route::get('sessions/{session}/stages', [HeadroomController::class, 'paths']);
Route::get('sessions/{session}/moment', [HeadroomController::class, 'moment']);
Route::post('sessions/{session}/plans', [PlanController::class, 'store']);
Route::post('sessions/{session}/plans/stop', [PlanController::class, 'stop']);

Route::post('sessions/{session}/renders', [RenderController::class, 'store']);
Route::get('renders/{render}', [RenderController::class, 'show']);
Route::post('renders/{render}/stop', [RenderController::class, 'stop']);
Route::get('renders/{render}/file', [RenderController::class, 'file']);

Route::get('sessions/{session}/load', [LoadController::class, 'show']);
Route::post('sessions/{session}/load', [LoadController::class, 'store']);
Route::post('sessions/{session}/load/plan', [LoadController::class, 'plan']);
Route::post('sessions/{session}/freezes', [PrintController::class, 'freeze']);
Route::post('sessions/{session}/prints', [PrintController::class, 'print']);
Route::post('sessions/{session}/prints/advice', [PrintController::class, 'advice']);
Route::get('sessions/{session}/batches', [PrintController::class, 'index']);
Route::get('batches/{batch}', [PrintController::class, 'show']);
Route::get('batches/{batch}/file', [PrintController::class, 'file']);
Route::post('batches/{batch}/stop', [PrintController::class, 'stop']);

Route::get('storage', [StorageController::class, 'show']);
Route::delete('storage/media', [StorageController::class, 'removeUnusedMedia']);
Route::delete('storage/captured', [StorageController::class, 'removeCaptured']);
Route::delete('media/{media}', [StorageController::class, 'removeMedia']);
Route::delete('renders/{render}', [StorageController::class, 'removeRender']);
Route::delete('sessions/{session}', [StorageController::class, 'removeSession'])->withTrashed();
Route::post('sessions/{session}/thin', [StorageController::class, 'thin']);

Route::post('sessions/{session}/listenings', [ListeningController::class, 'store']);
Route::put('listenings/{listening}', [ListeningController::class, 'update']);
Route::get('listenings/{listening}/stream', [ListeningController::class, 'stream']);
