@echo off
rem Starts Ancora with the Java that lies beside this file, and does its other commands. It needs nothing else.
setlocal
set "here=%~dp0"
set "from=%CD%"
set "kept=%APPDATA%\Ancora"
set "jar=app\ancora-app.jar"
set "command=%~1"
if "%command%"=="" set "command=run"
set "rest="
shift
:words
if "%~1"=="" goto choose
set "rest=%rest% "%~1""
shift
goto words

:choose
set "main="
set "first=%command%"
if "%command%"=="run" goto start
if "%command%"=="demo" goto start
if "%command%"=="replay" set "main=ancora.app.journal.ReplayCommand" & set "first="
if "%command%"=="tempo" set "main=ancora.app.tempo.TempoCommand" & set "first="
if "%command%"=="doctor" set "main=ancora.app.store.DoctorCommand" & set "first="
if "%command%"=="backup" set "main=ancora.app.store.BackupCommand"
if "%command%"=="restore" set "main=ancora.app.store.BackupCommand"
if "%command%"=="export" set "main=ancora.app.files.FilesCommand"
if "%command%"=="import" set "main=ancora.app.files.FilesCommand"
if not defined main goto usage
"%here%runtime\bin\java" -XX:+UseSerialGC -XX:TieredStopAtLevel=1 "-Dancora.kept=%kept%" -cp "%here%%jar%" %main% %first% %rest%
exit /b %errorlevel%

:start
rem Its classes are kept as loaded for this path, seen from this folder.
cd /d "%here%"
:again
runtime\bin\java -Xmx256m -XX:+UseSerialGC -XX:TieredStopAtLevel=1 -XX:+ExitOnOutOfMemoryError -XX:SharedArchiveFile=app\ancora.jsa -Dspring.aot.enabled=true "-Dancora.from=%from%" "-Dancora.kept=%kept%" -cp "%jar%" ancora.app.StartCommand %command% %rest%
if %errorlevel%==3 (
  echo Ancora had too little memory, and starts again. 1>&2
  goto again
)
exit /b %errorlevel%

:usage
echo usage: ancora run^|demo [--port=N] [--data=FOLDER] [--listen[=N]] [--plain] [--open]
echo        ancora replay^|tempo^|export^|import^|backup^|restore^|doctor ...
if "%command%"=="help" exit /b 0
exit /b 2
